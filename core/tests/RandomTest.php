<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests;

use Dokimos\Core\Random;
use PHPUnit\Framework\TestCase;

/** Seeded numbers: the same wherever they are drawn, and even. */
final class RandomTest extends TestCase
{
    public function testAStreamIsItsSeedAndPurposeAlone(): void
    {
        self::assertSame(Random::shares(Random::stream(5, 'a'), 20), Random::shares(Random::stream(5, 'a'), 20));
        self::assertNotSame(Random::shares(Random::stream(5, 'a'), 20), Random::shares(Random::stream(5, 'b'), 20));
        self::assertNotSame(Random::shares(Random::stream(5, 'a'), 20), Random::shares(Random::stream(6, 'a'), 20));
        // Many at once are those that come one after the other.
        $one = Random::stream(7, 'one');
        $each = [];
        for ($i = 0; $i < 50; ++$i) {
            $each[] = Random::share($one);
        }
        self::assertSame($each, Random::shares(Random::stream(7, 'one'), 50));
        self::assertSame([], Random::shares($one, 0));
    }

    public function testSharesLieEvenlyFromNothingToBelowOne(): void
    {
        $n = 40_000;
        $shares = Random::shares(Random::stream(1, 'even'), $n);
        self::assertCount($n, $shares);
        self::assertGreaterThanOrEqual(0.0, min([0.5, ...$shares]));
        self::assertLessThan(1.0, max([0.5, ...$shares]));
        $bins = array_fill(0, 20, 0);
        $last = 0.5;
        $together = 0.0;
        foreach ($shares as $u) {
            ++$bins[(int) (20 * $u)];
            $together += ($u - 0.5) * ($last - 0.5);
            $last = $u;
        }
        $square = array_sum(array_map(static fn (int $b): float => ($b - $n / 20) ** 2 / ($n / 20), $bins));
        self::assertLessThan(43.8, $square, 'chi-square of 19 degrees, 1 in 1,000');
        self::assertEqualsWithDelta(0.0, 12 * $together / $n, 4 / sqrt($n), 'one tells nothing of the next');
        self::assertGreaterThan($n - 2, \count(array_unique(array_map(static fn (float $u): string => bin2hex(pack('E', $u)), $shares))));
    }
}
