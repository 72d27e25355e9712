<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

use Dokimos\Core\Math\Distribution\ChiSquare;
use Dokimos\Core\Math\Distribution\FisherF;
use Dokimos\Core\Math\Distribution\StudentT;

/**
 * How strongly two columns go together, on the rows where both are present. Definitions: docs/methods/association.md.
 *
 * Numbers are lists of floats with NAN = missing; categories are lists of codes with -1 = missing.
 */
final class Association
{
    /**
     * Product-moment correlation with the t test of no relation.
     *
     * @param list<float> $x
     * @param list<float> $y
     *
     * @return array{n: int, r: ?float, p: ?float} null where a column does not vary or fewer than three rows are left
     */
    public static function pearson(array $x, array $y): array
    {
        [$a, $b] = self::bothPresent($x, $y);

        return self::complete($a, $b);
    }

    /**
     * The same on mid-ranks, ranked among the rows where both are present.
     *
     * @param list<float> $x
     * @param list<float> $y
     *
     * @return array{n: int, rho: ?float, p: ?float}
     */
    public static function spearman(array $x, array $y): array
    {
        [$a, $b] = self::bothPresent($x, $y);
        $out = self::complete(Ranks::of($a), Ranks::of($b));

        return ['n' => $out['n'], 'rho' => $out['r'], 'p' => $out['p']];
    }

    /**
     * @param list<float> $x
     * @param list<float> $y
     *
     * @return array{list<float>, list<float>}
     */
    private static function bothPresent(array $x, array $y): array
    {
        $a = $b = [];
        foreach ($x as $i => $v) {
            $w = $y[$i];
            if (!is_nan($v) && !is_nan($w)) {
                $a[] = $v;
                $b[] = $w;
            }
        }

        return [$a, $b];
    }

    /**
     * Product-moment correlation of two columns without missing cells.
     *
     * @param list<float> $x
     * @param list<float> $y
     *
     * @return array{n: int, r: ?float, p: ?float}
     */
    public static function complete(array $x, array $y): array
    {
        $n = \count($x);
        if ($n < 3) {
            return ['n' => $n, 'r' => null, 'p' => null];
        }
        [$x, $y] = [self::within($x), self::within($y)];
        $mx = array_sum($x) / $n;
        $my = array_sum($y) / $n;
        $xx = $yy = $xy = 0.0;
        foreach ($x as $i => $v) {
            $a = $v - $mx;
            $b = $y[$i] - $my;
            $xx += $a * $a;
            $yy += $b * $b;
            $xy += $a * $b;
        }
        if (!($xx > 0.0) || !($yy > 0.0)) {
            return ['n' => $n, 'r' => null, 'p' => null];
        }
        $r = max(-1.0, min(1.0, $xy / sqrt($xx * $yy)));
        $rest = 1.0 - $r * $r;

        return ['n' => $n, 'r' => $r, 'p' => $rest < 1e-15 ? 0.0 : (new StudentT($n - 2))->twoSided($r * sqrt(($n - 2) / $rest))];
    }

    /**
     * Pearson's chi-square of two categories with Cramér's V, plain and corrected for chance (Bergsma 2013).
     *
     * @param list<int> $a
     * @param list<int> $b
     *
     * @return array{n: int, chi2: ?float, df: int, p: ?float, cramers_v: ?float, cramers_v_corrected: ?float}
     */
    public static function categories(array $a, array $b): array
    {
        [$cells, $rows, $columns, $n] = self::crossed($a, $b);
        $r = \count($rows);
        $c = \count($columns);
        $df = max(0, ($r - 1) * ($c - 1));
        if (0 === $df) {
            return ['n' => $n, 'chi2' => null, 'df' => 0, 'p' => null, 'cramers_v' => null, 'cramers_v_corrected' => null];
        }
        // Σ (o - e)² / e over all cells, the empty ones among them: n (Σ o² / (row column) - 1), summed as differences.
        $chi2 = 0.0;
        foreach ($rows as $i => $row) {
            foreach ($columns as $j => $column) {
                $e = $row * $column / $n;
                $chi2 += (($cells[$i][$j] ?? 0) - $e) ** 2 / $e;
            }
        }
        $f = max(0.0, $chi2 / $n - $df / ($n - 1));
        $rr = $r - ($r - 1) ** 2 / ($n - 1);
        $cc = $c - ($c - 1) ** 2 / ($n - 1);
        $corrected = min($rr - 1, $cc - 1);

        return ['n' => $n, 'chi2' => $chi2, 'df' => $df, 'p' => (new ChiSquare($df))->upper($chi2), 'cramers_v' => sqrt($chi2 / $n / min($r - 1, $c - 1)), 'cramers_v_corrected' => $corrected > 0.0 ? sqrt($f / $corrected) : null];
    }

    /**
     * Counts of pairs of codes, and of either alone, on the rows where both are present.
     *
     * @param list<int> $a
     * @param list<int> $b
     *
     * @return array{array<int, array<int, int>>, array<int, int>, array<int, int>, int}
     */
    public static function crossed(array $a, array $b): array
    {
        $cells = $rows = $columns = [];
        $n = 0;
        foreach ($a as $i => $x) {
            $y = $b[$i];
            if ($x < 0 || $y < 0) {
                continue;
            }
            $cells[$x][$y] = ($cells[$x][$y] ?? 0) + 1;
            $rows[$x] = ($rows[$x] ?? 0) + 1;
            $columns[$y] = ($columns[$y] ?? 0) + 1;
            ++$n;
        }
        // In the order of codes, so that sums do not depend on the order of rows.
        ksort($rows);
        ksort($columns);

        return [$cells, $rows, $columns, $n];
    }

    /**
     * The share of a number's variance that lies between the groups of a category (eta squared), with the F test.
     *
     * @param list<int>   $codes
     * @param list<float> $values
     *
     * @return array{n: int, eta_squared: ?float, f: ?float, df1: int, df2: int, p: ?float} f is null where nothing varies within the groups, too
     */
    public static function groups(array $codes, array $values): array
    {
        $values = self::within($values);
        $sum = $count = [];
        $total = 0.0;
        $n = 0;
        foreach ($codes as $i => $code) {
            $v = $values[$i];
            if ($code >= 0 && $v === $v) {
                $sum[$code] = ($sum[$code] ?? 0.0) + $v;
                $count[$code] = ($count[$code] ?? 0) + 1;
                $total += $v;
                ++$n;
            }
        }
        $groups = \count($count);
        $df1 = max(0, $groups - 1);
        $df2 = max(0, $n - $groups);
        if (0 === $df1 || 0 === $df2) {
            return ['n' => $n, 'eta_squared' => null, 'f' => null, 'df1' => $df1, 'df2' => $df2, 'p' => null];
        }
        $mean = $total / $n;
        $between = $within = 0.0;
        foreach ($sum as $code => $s) {
            $between += $count[$code] * ($s / $count[$code] - $mean) ** 2;
        }
        foreach ($codes as $i => $code) {
            $v = $values[$i];
            if ($code >= 0 && $v === $v) {
                $within += ($v - $sum[$code] / $count[$code]) ** 2;
            }
        }
        if ($between + $within <= 0.0) {
            return ['n' => $n, 'eta_squared' => null, 'f' => null, 'df1' => $df1, 'df2' => $df2, 'p' => null];
        }
        $f = $within > 0.0 ? $between / $df1 / ($within / $df2) : \INF;

        return ['n' => $n, 'eta_squared' => $between / ($between + $within), 'f' => is_finite($f) ? $f : null, 'df1' => $df1, 'df2' => $df2, 'p' => is_finite($f) ? (new FisherF($df1, $df2))->upper($f) : 0.0];
    }

    /**
     * Values whose squares would leave what a double holds, as shares of the largest: neither figure here depends on the unit.
     *
     * @param list<float> $values
     *
     * @return list<float>
     */
    private static function within(array $values): array
    {
        $largest = 0.0;
        foreach ($values as $v) {
            if ($v > $largest || -$v > $largest) {
                $largest = abs($v);
            }
        }
        if (!is_finite($largest) || 0.0 === $largest || ($largest < 1e100 && $largest > 1e-100)) {
            return $values;
        }

        return array_map(static fn (float $v): float => $v / $largest, $values);
    }
}
