<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

/** What knowing one column takes away from the uncertainty about another. Definitions: docs/methods/association.md. */
final class Information
{
    /**
     * Mutual information in nats.
     *
     * @param list<int> $a codes, -1 = missing
     * @param list<int> $b
     *
     * @return array{n: int, mutual_information_nats: ?float}
     */
    public static function mutual(array $a, array $b): array
    {
        [$cells, $rows, $columns, $n] = Association::crossed($a, $b);
        $sum = 0.0;
        foreach ($rows as $i => $row) {
            foreach ($columns as $j => $column) {
                $count = $cells[$i][$j] ?? 0;
                if ($count > 0) {
                    $sum += $count / $n * log($count * $n / ($row * $column));
                }
            }
        }

        return ['n' => $n, 'mutual_information_nats' => $n > 0 ? $sum : null];
    }

    /**
     * Gains of one branch per level about a target.
     *
     * @param list<int> $target codes, -1 = missing
     * @param list<int> $codes
     *
     * @return array{n: int, gini_gain: ?float, information_gain_bits: ?float, gain_ratio: ?float}
     */
    public static function byLevels(array $target, array $codes): array
    {
        [$cells, $levels, $classes, $n] = Association::crossed($codes, $target);
        if (0 === $n) {
            return ['n' => 0, 'gini_gain' => null, 'information_gain_bits' => null, 'gain_ratio' => null];
        }
        $gini = self::gini($classes, $n);
        $information = self::entropy($classes, $n);
        foreach ($levels as $i => $size) {
            $gini -= $size / $n * self::gini($cells[$i], $size);
            $information -= $size / $n * self::entropy($cells[$i], $size);
        }
        $own = self::entropy($levels, $n);

        return ['n' => $n, 'gini_gain' => $gini, 'information_gain_bits' => $information, 'gain_ratio' => $own > 0.0 ? $information / $own : null];
    }

    /**
     * Gains of the best single cut x ≤ t of a number, over the midpoints of neighboring values, for either measure by itself.
     *
     * @param list<int>   $target codes, -1 = missing
     * @param list<float> $values NAN = missing
     *
     * @return array{n: int, gini_gain: ?float, gini_threshold: ?float, information_gain_bits: ?float, information_threshold: ?float}
     */
    public static function byCut(array $target, array $values): array
    {
        $present = $right = [];
        foreach ($values as $i => $v) {
            if ($v === $v && $target[$i] >= 0) {
                $present[$i] = $v;
                $right[$target[$i]] = ($right[$target[$i]] ?? 0) + 1;
            }
        }
        asort($present, \SORT_NUMERIC);
        $rows = array_keys($present);
        $n = \count($rows);
        $out = ['n' => $n, 'gini_gain' => null, 'gini_threshold' => null, 'information_gain_bits' => null, 'information_threshold' => null];
        $gini = self::gini($right, max(1, $n));
        $entropy = self::entropy($right, max(1, $n));
        $left = array_fill_keys(array_keys($right), 0);
        for ($i = 0; $i + 1 < $n; ++$i) {
            $class = $target[$rows[$i]];
            ++$left[$class];
            --$right[$class];
            $here = $present[$rows[$i]];
            $next = $present[$rows[$i + 1]];
            if ($next === $here) {
                continue;
            }
            $l = $i + 1;
            $r = $n - $l;
            $g = $gini - $l / $n * self::gini($left, $l) - $r / $n * self::gini($right, $r);
            if (null === $out['gini_gain'] || $g > $out['gini_gain']) {
                $out['gini_gain'] = $g;
                $out['gini_threshold'] = ($here + $next) / 2;
            }
            $b = $entropy - $l / $n * self::entropy($left, $l) - $r / $n * self::entropy($right, $r);
            if (null === $out['information_gain_bits'] || $b > $out['information_gain_bits']) {
                $out['information_gain_bits'] = $b;
                $out['information_threshold'] = ($here + $next) / 2;
            }
        }

        return $out;
    }

    /** @param array<int, int> $counts */
    private static function gini(array $counts, int $n): float
    {
        $sum = 1.0;
        foreach ($counts as $count) {
            $sum -= ($count / $n) ** 2;
        }

        return $sum;
    }

    /** @param array<int, int> $counts */
    private static function entropy(array $counts, int $n): float
    {
        $sum = 0.0;
        foreach ($counts as $count) {
            if ($count > 0) {
                $sum -= $count / $n * log($count / $n, 2);
            }
        }

        return $sum;
    }
}
