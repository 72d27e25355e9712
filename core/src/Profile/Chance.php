<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

use Dokimos\Core\Math\Special;

/**
 * The chance of so strong a relation if there were none, for statements made of very many pairs: it has to hold far out, with rare values and
 * lopsided numbers. Tables are judged by what permuting one column would give; numbers by their ranks. Definitions: docs/methods/association.md.
 */
final class Chance
{
    /** Smaller groups are put together: with an expected count below it no statement is made of a cell alone. */
    private const EXPECTED = 5.0;
    /** A value that holds so much of a column leaves of its numbers hardly more than whether they are it. */
    private const DOMINANT = 0.8;

    /**
     * Of two categories: Fisher's exact test of a table of two by two with few records; else chi-square, with rare values put together,
     * against a gamma distribution of its exact mean and variance under permutation (Haldane 1940; Mielke and Berry 2007, section 7.1).
     *
     * @param list<int> $a codes, -1 = missing
     * @param list<int> $b
     */
    public static function ofCategories(array $a, array $b): ?float
    {
        [$cells, $rows, $columns, $n] = Association::crossed($a, $b);
        if (\count($rows) < 2 || \count($columns) < 2) {
            return null;
        }
        $sizes = $rows;
        $rows = self::pooled($rows, min($n / 4, self::EXPECTED * $n / max(1, min($columns))));
        $columns = self::pooled($columns, min($n / 4, self::EXPECTED * $n / max(1, min(self::sums($rows, $sizes)))));
        $table = $byRow = $byColumn = [];
        foreach ($cells as $i => $own) {
            foreach ($own as $j => $count) {
                $table[$rows[$i]][$columns[$j]] = ($table[$rows[$i]][$columns[$j]] ?? 0) + $count;
                $byRow[$rows[$i]] = ($byRow[$rows[$i]] ?? 0) + $count;
                $byColumn[$columns[$j]] = ($byColumn[$columns[$j]] ?? 0) + $count;
            }
        }
        if (\count($byRow) < 2 || \count($byColumn) < 2) {
            return 1.0;
        }
        if (2 === \count($byRow) && 2 === \count($byColumn)) {
            $i = array_key_first($byRow);
            $j = array_key_first($byColumn);

            return self::exact($table[$i][$j] ?? 0, $byRow[$i], $byColumn[$j], $n);
        }
        $chi2 = 0.0;
        foreach ($byRow as $i => $row) {
            foreach ($byColumn as $j => $column) {
                $e = $row * $column / $n;
                $chi2 += (($table[$i][$j] ?? 0) - $e) ** 2 / $e;
            }
        }

        return self::permuted($chi2, array_values($byRow), array_values($byColumn), $n);
    }

    /**
     * Of a category and a number: the ranks of the number between the groups (Kruskal and Wallis 1952), against the F distribution of an
     * analysis of the ranks; groups of fewer than five records are put together. A lopsided number is told by whether it is its usual value.
     *
     * @param list<int>   $codes
     * @param list<float> $values
     */
    public static function ofGroups(array $codes, array $values): ?float
    {
        if (null !== $usual = self::usual($values)) {
            return self::ofCategories($codes, self::two($values, $usual));
        }
        $sizes = $known = $own = [];
        foreach ($codes as $i => $code) {
            if ($code >= 0 && !is_nan($values[$i])) {
                $sizes[$code] = ($sizes[$code] ?? 0) + 1;
                $known[] = $values[$i];
                $own[] = $code;
            }
        }
        $of = self::pooled($sizes, self::EXPECTED);

        return [] === $known ? null : Association::groups(array_map(static fn (int $code): int => $of[$code], $own), Ranks::of($known))['p'];
    }

    /**
     * Of two numbers: their rank correlation; a lopsided one is told by whether it is its usual value.
     *
     * @param list<float> $x
     * @param list<float> $y
     */
    public static function ofNumbers(array $x, array $y): ?float
    {
        [$p, $q] = [self::usual($x), self::usual($y)];

        return match (true) {
            null !== $p && null !== $q => self::ofCategories(self::two($x, $p), self::two($y, $q)),
            null !== $p => self::ofGroups(self::two($x, $p), $y),
            null !== $q => self::ofGroups(self::two($y, $q), $x),
            default => Association::spearman($x, $y)['p'],
        };
    }

    /**
     * @param list<float> $values
     *
     * @return list<int>
     */
    private static function two(array $values, float $usual): array
    {
        return array_map(static fn (float $v): int => is_nan($v) ? -1 : ($v === $usual ? 0 : 1), $values);
    }

    /**
     * The value that fills most of a column, if one does.
     *
     * @param list<float> $values
     */
    private static function usual(array $values): ?float
    {
        $known = array_values(array_filter($values, static fn (float $v): bool => !is_nan($v)));
        if ([] === $known) {
            return null;
        }
        sort($known);
        $n = \count($known);
        $middle = $known[intdiv($n, 2)];
        $same = \count(array_keys($known, $middle, true));

        return $same >= self::DOMINANT * $n && $same < $n ? $middle : null;
    }

    /**
     * Which level each level counts as: those below the least, the smallest first, together until they reach it.
     *
     * @param array<int, int> $sizes
     *
     * @return array<int, int>
     */
    private static function pooled(array $sizes, float $least): array
    {
        asort($sizes);
        $of = [];
        $together = 0;
        $pool = array_key_first($sizes) ?? 0;
        foreach ($sizes as $level => $size) {
            if ($size < $least || ($together > 0 && $together < $least)) {
                $together += $size;
                $of[$level] = $pool;
            } else {
                $of[$level] = $level;
            }
        }

        return $of;
    }

    /**
     * @param array<int, int> $of    level => what it counts as
     * @param array<int, int> $sizes
     *
     * @return non-empty-list<int>
     */
    private static function sums(array $of, array $sizes): array
    {
        $out = [];
        foreach ($of as $level => $as) {
            $out[$as] = ($out[$as] ?? 0) + $sizes[$level];
        }

        return [] === $out ? [1] : array_values($out);
    }

    /** Both sides: every table at most as likely as this one. */
    private static function exact(int $both, int $row, int $column, int $n): float
    {
        $ln = static fn (int $k): float => Special::logGamma($k + 1.0);
        $fixed = $ln($row) + $ln($n - $row) + $ln($column) + $ln($n - $column) - $ln($n);
        $chance = static fn (int $k): float => exp($fixed - $ln($k) - $ln($row - $k) - $ln($column - $k) - $ln($n - $row - $column + $k));
        $least = max(0, $row + $column - $n);
        $most = min($row, $column);
        $own = $chance($both) * (1 + 1e-7);
        $sum = 0.0;
        // Outward from the likeliest table: far out nothing more is added.
        $middle = max($least, min($most, (int) round($row * $column / $n)));
        for ($k = $middle; $k <= $most; ++$k) {
            $p = $chance($k);
            $sum += $p <= $own ? $p : 0.0;
            if ($p < 1e-18 && $k > $both) {
                break;
            }
        }
        for ($k = $middle - 1; $k >= $least; --$k) {
            $p = $chance($k);
            $sum += $p <= $own ? $p : 0.0;
            if ($p < 1e-18 && $k < $both) {
                break;
            }
        }

        return min(1.0, $sum);
    }

    /**
     * @param list<int> $rows
     * @param list<int> $columns
     */
    private static function permuted(float $chi2, array $rows, array $columns, int $n): float
    {
        [$r, $c] = [\count($rows), \count($columns)];
        $mean = ($r - 1) * ($c - 1) * $n / ($n - 1);
        $v1 = ($r - 1) * ($n - $r) / ($n - 1);
        $v2 = ($c - 1) * ($n - $c) / ($n - 1);
        $s = ($n * self::inverse($rows) - $r * $r) / ($n - 2);
        $t = ($n * self::inverse($columns) - $c * $c) / ($n - 2);
        $variance = 2 * $n / ($n - 3) * ($v1 - $s) * ($v2 - $t) + $n * $n / ($n - 1) * $s * $t;

        return $variance > 0.0 ? Special::gammaQ($mean * $mean / $variance, $chi2 * $mean / $variance) : 1.0;
    }

    /** @param list<int> $sizes */
    private static function inverse(array $sizes): float
    {
        return array_sum(array_map(static fn (int $s): float => 1 / $s, $sizes));
    }
}
