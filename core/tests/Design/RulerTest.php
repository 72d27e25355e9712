<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Design;

use Dokimos\Core\Design\Ruler;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/** Numbers are found among cuts, many or few at a time, wherever the cuts lie. */
final class RulerTest extends TestCase
{
    /** @return iterable<string, array{list<float>}> ascending cuts */
    public static function cuts(): iterable
    {
        $random = new Randomizer(new Xoshiro256StarStar(5));
        $share = static fn (): float => $random->getInt(1, 1 << 50) / (1 << 50);
        $drawn = static function (\Closure $of, int $many = 300) use ($share): array {
            $cuts = array_map(static fn (): float => $of($share()), range(1, $many));
            sort($cuts);

            return array_values(array_unique($cuts));
        };
        yield 'none' => [[]];
        yield 'one' => [[0.5]];
        yield 'two' => [[-3.0, 8.0]];
        yield 'evenly apart' => [array_map(static fn (int $k): float => $k / 10, range(-20, 300))];
        yield 'drawn' => [$drawn(static fn (float $u): float => log($u / (1 - $u)))];
        yield 'far tails' => [$drawn(static fn (float $u): float => tan(3.14159 * ($u - 0.5)) ** 5)];
        yield 'most of them together' => [$drawn(static fn (float $u): float => $u < 0.98 ? $u / 1e9 : 1e9 * $u)];
        yield 'next to each other' => [[1.0, 1.0 + 2.0 ** -52, 1.0 + 2.0 ** -51]];
        yield 'as far apart as numbers go' => [[-1.7e308, -1.0, 0.0, 1e-300, 1.7e308]];
        yield 'as small as numbers get' => [[0.0, 5e-324, 1e-323, 1e-310]];
        yield 'more than stretches' => [$drawn(static fn (float $u): float => -log($u), 20_000)];
    }

    /** @param list<float> $cuts */
    #[DataProvider('cuts')]
    public function testTheCodeTellsHowManyCutsAreBelow(array $cuts): void
    {
        $random = new Randomizer(new Xoshiro256StarStar(11));
        $values = [\NAN, \INF, -\INF, 0.0, -0.0, 1e308, -1e308, 5e-324];
        foreach ($cuts as $k => $cut) {
            if (0 === $k % max(1, intdiv(\count($cuts), 300))) {
                array_push($values, $cut, $cut + abs($cut) * 2.0 ** -52, $cut - abs($cut) * 2.0 ** -52);
            }
        }
        while (\count($values) < 1500) {
            $values[] = ($random->getInt(0, 1 << 40) / (1 << 40) - 0.5) * 10 ** $random->getInt(-12, 12);
        }
        $wanted = array_map(static function (float $v) use ($cuts): int {
            $from = 0;
            $to = \count($cuts);
            while ($from < $to) {
                $middle = intdiv($from + $to, 2);
                [$from, $to] = $cuts[$middle] < $v ? [$middle + 1, $to] : [$from, $middle];
            }

            return is_nan($v) ? 0 : $from + 1;
        }, $values);
        $all = array_keys($values);
        foreach ([1, 1_000_000] as $asked) {
            self::assertSame($wanted, Ruler::of($cuts, $asked)->codes($values, null));
            self::assertSame(array_reverse($wanted), Ruler::of($cuts, $asked)->codes($values, array_reverse($all)));
        }
    }
}
