<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Measure;

use Dokimos\Core\Measure\Concordance;
use Dokimos\Core\Measure\DeLong;
use PHPUnit\Framework\TestCase;

/** Pairs counted one by one say the same, and so does the area under the ROC curve where there are two values. */
final class ConcordanceTest extends TestCase
{
    /** @return array{list<float>, list<float>} numbers and scores, with ties in both */
    private static function drawn(int $seed, int $n, int $values, int $scores): array
    {
        mt_srand($seed);
        $outcome = $score = [];
        for ($i = 0; $i < $n; ++$i) {
            $score[] = mt_rand(1, $scores) / 7;
            $outcome[] = (float) (int) ($values * (0.4 * $score[$i] * 7 / $scores + 0.6 * mt_rand() / mt_getrandmax()));
        }

        return [$outcome, $score];
    }

    public function testPairsCountedOneByOne(): void
    {
        foreach ([[1, 60, 40, 9], [2, 51, 3, 50], [3, 80, 1000, 2]] as [$seed, $n, $values, $scores]) {
            [$y, $s] = self::drawn($seed, $n, $values, $scores);
            $right = $differ = array_fill(0, $n, 0.0);
            for ($i = 0; $i < $n; ++$i) {
                for ($j = 0; $j < $n; ++$j) {
                    if ($y[$i] !== $y[$j]) {
                        ++$differ[$i];
                        $right[$i] += $s[$i] === $s[$j] ? 0.5 : ($s[$i] < $s[$j] === $y[$i] < $y[$j] ? 1.0 : 0.0);
                    }
                }
            }
            $c = array_sum($right) / array_sum($differ);
            $square = 0.0;
            foreach ($right as $i => $r) {
                $square += (2 * ($r - $c * $differ[$i]) / array_sum($differ)) ** 2;
            }
            $found = Concordance::of($y, $s);
            self::assertNotNull($found);
            self::assertEqualsWithDelta($c, $found->value, 1e-12);
            self::assertEqualsWithDelta($square, $found->variance, 1e-12);
        }
    }

    public function testOfTwoValuesItIsTheAreaUnderTheRocCurve(): void
    {
        [$y, $s] = self::drawn(4, 400, 2, 12);
        $two = array_map(static fn (float $v): float => min(1.0, $v), $y);
        $found = Concordance::of($two, $s);
        $auc = DeLong::of($two, $s);
        self::assertEqualsWithDelta($auc->auc, $found?->value, 1e-12);
        self::assertEqualsWithDelta(1.0, $found?->variance / $auc->variance(), 0.02, 'two estimates of one variance');
    }

    public function testOrderReversedIsAsFarBelowAHalf(): void
    {
        [$y, $s] = self::drawn(5, 100, 30, 20);
        $back = Concordance::of($y, array_map(static fn (float $v): float => -$v, $s));
        self::assertEqualsWithDelta(1.0, (Concordance::of($y, $s)->value ?? 0.0) + ($back->value ?? 0.0), 1e-12);
        self::assertSame(1.0, Concordance::of($y, $y)?->value);
        self::assertNull(Concordance::of([2.0, 2.0, 2.0], [1.0, 2.0, 3.0]), 'nothing to order');
    }
}
