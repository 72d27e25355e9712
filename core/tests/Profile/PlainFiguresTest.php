<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Profile;

use Dokimos\Core\Profile\Chance;
use Dokimos\Core\Profile\NumberSummary;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Figures of a column against their definitions, worked out one value at a time. */
final class PlainFiguresTest extends TestCase
{
    /** @return iterable<string, array{list<float>}> */
    public static function columns(): iterable
    {
        $random = new Randomizer(new Mt19937(8));
        $draw = static fn (int $n, \Closure $of): array => array_map(static fn (): float => $of($random), range(1, $n));
        yield 'whole numbers with ties' => [$draw(200, static fn (Randomizer $r): float => (float) $r->getInt(-4, 9))];
        yield 'a long tail' => [$draw(301, static fn (Randomizer $r): float => exp($r->getInt(0, 900) / 100))];
        yield 'a long tail below' => [$draw(150, static fn (Randomizer $r): float => -exp($r->getInt(0, 900) / 100))];
        yield 'mostly nothing' => [$draw(90, static fn (Randomizer $r): float => (float) max(0, $r->getInt(-30, 9)))];
        yield 'a few' => [[3.5, -1.0, 3.5, 20.0, 0.0]];
        yield 'five, evenly' => [[1.0, 2.0, 3.0, 4.0, 5.0]];
        yield 'with missing cells' => [[\NAN, 4.0, \NAN, 8.0, 15.0, 16.0, 23.0, 42.0, \NAN]];
        yield 'two' => [[2.0, 9.0]];
    }

    /** @param list<float> $cells */
    #[DataProvider('columns')]
    public function testEveryFigureIsItsDefinition(array $cells): void
    {
        $summary = NumberSummary::of($cells);
        $x = array_values(array_filter($cells, static fn (float $v): bool => !is_nan($v)));
        sort($x);
        $n = \count($x);
        $mean = array_sum($x) / $n;
        $moment = static fn (int $k): float => array_sum(array_map(static fn (float $v): float => ($v - $mean) ** $k, $x)) / $n;
        $at = static function (float $p) use ($x, $n): float {
            $h = ($n - 1) * $p;
            $low = (int) floor($h);

            return $x[$low] + ($h - $low) * (($x[$low + 1] ?? $x[$low]) - $x[$low]);
        };
        $middle = static function (array $of): float {
            sort($of);
            $k = \count($of);

            return ($of[intdiv($k - 1, 2)] + $of[intdiv($k, 2)]) / 2;
        };
        $median = $middle($x);
        $mad = $middle(array_map(static fn (float $v): float => abs($v - $median), $x));
        $iqr = $at(0.75) - $at(0.25);
        $many = static fn (\Closure $where): int => \count(array_filter($x, $where));
        $g1 = $moment(3) / $moment(2) ** 1.5;
        $wanted = [
            'mean' => $mean,
            'sum' => array_sum($x),
            'variance' => $moment(2) * $n / ($n - 1),
            'sd' => sqrt($moment(2) * $n / ($n - 1)),
            'min' => $x[0],
            'max' => $x[$n - 1],
            'median' => $median,
            'q1' => $at(0.25),
            'q3' => $at(0.75),
            'p05' => $at(0.05),
            'p95' => $at(0.95),
            'iqr' => $iqr,
            'fence_low' => $at(0.25) - 1.5 * $iqr,
            'fence_high' => $at(0.75) + 1.5 * $iqr,
            'outliers_low' => $many(static fn (float $v): bool => $v < $at(0.25) - 1.5 * $iqr),
            'outliers_high' => $many(static fn (float $v): bool => $v > $at(0.75) + 1.5 * $iqr),
            'extremes_low' => $many(static fn (float $v): bool => $v < $at(0.25) - 3 * $iqr),
            'extremes_high' => $many(static fn (float $v): bool => $v > $at(0.75) + 3 * $iqr),
            'zeros' => $many(static fn (float $v): bool => 0.0 === $v),
            'negatives' => $many(static fn (float $v): bool => $v < 0),
            'mad_raw' => $mad,
            // The factor makes it the standard deviation where a column is normal: 1 / Φ⁻¹(3/4).
            'robust_z_over_3_5' => $mad > 0.0
                ? $many(static fn (float $v): bool => abs($v - $median) / ($mad * 1.482602218505602) > 3.5)
                : null,
            'skewness_g1' => $g1,
            'skewness_G1' => $n > 2 ? $g1 * sqrt($n * ($n - 1)) / ($n - 2) : null,
            'excess_kurtosis_g2' => $moment(4) / $moment(2) ** 2 - 3,
            'excess_kurtosis_G2' => $n > 3 ? ($n - 1) / (($n - 2) * ($n - 3)) * (($n + 1) * ($moment(4) / $moment(2) ** 2 - 3) + 6) : null,
        ];
        foreach ($wanted as $name => $value) {
            null === $value
                ? self::assertNull($summary->figure($name), $name)
                : self::assertEqualsWithDelta($value, $summary->figure($name), 1e-9 * max(1.0, abs((float) $value)), $name);
        }
        self::assertSame([$n, \count($cells) - $n, \count(array_unique($x))], [$summary->n, $summary->missing, $summary->distinct]);
        foreach ([$x[0], $median, $x[$n - 1] + 5.0] as $v) {
            $mad > 0.0
                ? self::assertEqualsWithDelta(($v - $median) / ($mad * 1.482602218505602), (float) $summary->robustZ($v), 1e-9)
                : self::assertNull($summary->robustZ($v));
        }
    }

    /** @param list<float> $cells */
    #[DataProvider('columns')]
    public function testUnitsAndOrderDoNotMatter(array $cells): void
    {
        $plain = NumberSummary::of($cells);
        foreach ([1e80, 1e-80, -1e100] as $unit) {
            $scaled = NumberSummary::of(array_reverse(array_map(static fn (float $v): float => $v * $unit, $cells)));
            foreach (['skewness_g1' => $unit <=> 0.0, 'excess_kurtosis_g2' => 1] as $name => $sign) {
                self::assertEqualsWithDelta(
                    $sign * (float) $plain->figure($name),
                    (float) $scaled->figure($name),
                    1e-9,
                    "$name in units of $unit",
                );
            }
            self::assertEqualsWithDelta(1.0, (float) $scaled->figure('sd') / abs($unit) / (float) $plain->figure('sd'), 1e-12);
            self::assertSame($plain->figure('robust_z_over_3_5'), $scaled->figure('robust_z_over_3_5'));
        }
    }

    /** @param list<float> $cells */
    #[DataProvider('columns')]
    public function testCountedValuesSayWhatSingleOnesDo(array $cells): void
    {
        $counts = [];
        foreach ($cells as $v) {
            if (!is_nan($v)) {
                $counts[(string) $v] = ($counts[(string) $v] ?? 0) + 1;
            }
        }
        ksort($counts, \SORT_NUMERIC);
        $missing = \count(array_filter($cells, is_nan(...)));
        $counted = NumberSummary::fromCounts(array_map(floatval(...), array_keys($counts)), array_values($counts), $missing);
        $single = NumberSummary::of($cells);
        foreach (['mean', 'sd', 'q1', 'median', 'q3', 'p05', 'p95', 'skewness_G1', 'excess_kurtosis_G2', 'mad_raw', 'mode'] as $name) {
            $expected = $single->figure($name);
            null === $expected
                ? self::assertNull($counted->figure($name), $name)
                : self::assertEqualsWithDelta($expected, $counted->figure($name), 1e-9 * max(1.0, abs((float) $expected)), $name);
        }
    }

    /** Fisher's exact test: every table with the same sums, at most as likely as this one. */
    public function testTwoByTwoTablesAreCountedOut(): void
    {
        $choose = static function (int $n, int $k): float {
            $out = 1.0;
            for ($i = 1; $i <= $k; ++$i) {
                $out *= ($n - $k + $i) / $i;
            }

            return $out;
        };
        $tried = 0;
        foreach ([[3, 1, 1, 3], [8, 2, 1, 5], [0, 10, 6, 6], [1, 9, 8, 2], [6, 6, 6, 6], [12, 3, 4, 1], [7, 8, 1, 9]] as [$a, $b, $c, $d]) {
            $n = $a + $b + $c + $d;
            $chance = static fn (int $k): float => $choose($a + $b, $k) * $choose($c + $d, $a + $c - $k) / $choose($n, $a + $c);
            $p = 0.0;
            for ($k = max(0, $a + $c - $c - $d); $k <= min($a + $b, $a + $c); ++$k) {
                $p += $chance($k) <= $chance($a) * (1 + 1e-7) ? $chance($k) : 0.0;
            }
            $one = [...array_fill(0, $a + $b, 0), ...array_fill(0, $c + $d, 1)];
            $other = [...array_fill(0, $a, 0), ...array_fill(0, $b, 1), ...array_fill(0, $c, 0), ...array_fill(0, $d, 1)];
            self::assertEqualsWithDelta($p, (float) Chance::ofCategories($one, $other), 1e-9, "$a $b $c $d");
            self::assertEqualsWithDelta($p, (float) Chance::ofCategories($other, $one), 1e-9, "$a $b $c $d, turned");
            ++$tried;
        }
        self::assertSame(7, $tried);
    }

    /** Under chance alone a test at 5 % speaks up in about 5 % of tables, small and lopsided ones too. */
    public function testTablesOfChanceAloneAreRarelyCalledClear(): void
    {
        $random = new Randomizer(new Mt19937(11));
        foreach ([
            [60, [30, 20, 10], [40, 20]],
            [200, [100, 60, 30, 10], [150, 30, 20]],
            [40, [10, 10, 10, 10], [20, 20]],
        ] as [$n, $rows, $columns]) {
            $said = 0;
            $spread = static fn (array $sizes): array => array_merge(...array_map(
                static fn (int $size, int $code): array => array_fill(0, $size, $code),
                $sizes,
                array_keys($sizes),
            ));
            $a = $spread($rows);
            for ($draw = 0; $draw < 400; ++$draw) {
                /** @var list<int> $b */
                $b = $random->shuffleArray($spread($columns));
                $p = Chance::ofCategories($a, $b);
                self::assertNotNull($p);
                self::assertTrue($p >= 0.0 && $p <= 1.0);
                $said += $p < 0.05 ? 1 : 0;
            }
            self::assertLessThanOrEqual(34, $said, "$n records: 8.5 % at most");
            self::assertGreaterThanOrEqual(6, $said, "$n records: it is not deaf");
        }
    }

    public function testAWidePermutationAgreesWithTheChanceThatIsTold(): void
    {
        $random = new Randomizer(new Mt19937(5));
        $a = array_map(static fn (int $i): int => $i % 4, range(0, 119));
        $b = array_map(static fn (int $i): int => 0 === $i % 3 ? $i % 4 % 3 : $random->getInt(0, 2), range(0, 119));
        $chi = static function (array $one, array $two): float {
            $cells = $r = $c = [];
            foreach ($one as $i => $k) {
                $cells[$k][$two[$i]] = ($cells[$k][$two[$i]] ?? 0) + 1;
                $r[$k] = ($r[$k] ?? 0) + 1;
                $c[$two[$i]] = ($c[$two[$i]] ?? 0) + 1;
            }
            $sum = 0.0;
            foreach ($r as $k => $rows) {
                foreach ($c as $l => $columns) {
                    $expected = $rows * $columns / \count($one);
                    $sum += (($cells[$k][$l] ?? 0) - $expected) ** 2 / $expected;
                }
            }

            return $sum;
        };
        $own = $chi($a, $b);
        $over = 0;
        for ($draw = 0; $draw < 4000; ++$draw) {
            $over += $chi($a, $random->shuffleArray($b)) >= $own - 1e-9 ? 1 : 0;
        }
        self::assertEqualsWithDelta($over / 4000, (float) Chance::ofCategories($a, $b), 0.02);
    }
}
