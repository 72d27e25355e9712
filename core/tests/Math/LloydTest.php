<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Math;

use Dokimos\Core\Math\Lloyd;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Groups around centers against their definition. */
final class LloydTest extends TestCase
{
    /** @return list<list<float>> three heaps far apart */
    private static function heaps(int $seed = 4): array
    {
        $random = new Randomizer(new Mt19937($seed));
        $points = [];
        foreach ([[0.0, 0.0], [20.0, 0.0], [0.0, 20.0]] as [$x, $y]) {
            for ($i = 0; $i < 25; ++$i) {
                $points[] = [$x + $random->getInt(-200, 200) / 100, $y + $random->getInt(-200, 200) / 100];
            }
        }

        return $points;
    }

    /**
     * @param list<float> $a
     * @param list<float> $b
     */
    private static function apart(array $a, array $b): float
    {
        return sqrt(array_sum(array_map(static fn (float $x, float $y): float => ($x - $y) ** 2, $a, $b)));
    }

    public function testHeapsAreFoundWhereverItBegins(): void
    {
        $points = self::heaps();
        foreach ([[[1.0, 1.0], [2.0, 2.0], [3.0, 3.0]], [[0.0, 0.0], [0.0, 21.0], [25.0, -3.0]]] as $start) {
            $found = Lloyd::from($points, $start);
            // At rest: every point is with its nearest center, and every center is the mean of its points.
            $inertia = 0.0;
            foreach ($points as $i => $point) {
                $own = self::apart($point, $found->centers[$found->labels[$i]]);
                $inertia += $own ** 2;
                foreach ($found->centers as $center) {
                    self::assertGreaterThanOrEqual($own - 1e-9, self::apart($point, $center));
                }
            }
            self::assertEqualsWithDelta($inertia, $found->inertia, 1e-9);
            foreach ($found->centers as $k => $center) {
                $mine = array_values(array_filter($points, static fn (int $i): bool => $found->labels[$i] === $k, \ARRAY_FILTER_USE_KEY));
                foreach ([] === $mine ? [] : [0, 1] as $axis) {
                    self::assertEqualsWithDelta(array_sum(array_column($mine, $axis)) / \count($mine), $center[$axis], 1e-9);
                }
            }
        }
    }

    public function testHowWellPointsSitIsTheMeanOfTheirOwn(): void
    {
        $points = self::heaps();
        $found = Lloyd::from($points, [[0.0, 0.0], [20.0, 0.0], [0.0, 20.0]]);
        $sum = 0.0;
        foreach ($points as $i => $point) {
            $distances = array_map(static fn (array $c): float => self::apart($point, $c), $found->centers);
            $a = $distances[$found->labels[$i]];
            unset($distances[$found->labels[$i]]);
            $b = min(\INF, ...$distances);
            $sum += ($b - $a) / max($a, $b);
        }
        self::assertEqualsWithDelta($sum / \count($points), $found->silhouette($points), 1e-12);
        self::assertGreaterThan(0.9, $found->silhouette($points), 'far apart');
        // Two centers where three heaps are: two heaps share one, and sit worse.
        $fewer = Lloyd::from($points, [[0.0, 0.0], [20.0, 0.0]]);
        self::assertLessThan($found->silhouette($points), $fewer->silhouette($points));
        self::assertGreaterThan($found->inertia, $fewer->inertia);
    }

    public function testACenterThatLosesItsPointsStays(): void
    {
        $found = Lloyd::from([[0.0], [1.0], [2.0]], [[1.0], [500.0]]);
        self::assertSame([[1.0], [500.0]], $found->centers);
        self::assertSame([0, 0, 0], $found->labels);
        self::assertSame(2.0, $found->inertia);
    }
}
