<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Selection;

use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Math\Qr;

/**
 * The best subsets of each size by residual sum of squares. Columns are taken out of the full model one after the other; what no longer
 * can be among the best is not followed, since leaving out more only leaves more (Furnival and Wilson 1974).
 */
final class BestSubsets
{
    public const MOST = 20;

    /** @var array<int, list<array{float, int}>> by size: rss and columns as bits, best first */
    private array $best = [];

    private function __construct(private readonly int $keep)
    {
    }

    /**
     * @param list<list<float>> $columns one list of numbers per candidate
     * @param list<string>      $names
     * @param list<float>       $y
     * @param int               $keep    subsets of each size
     *
     * @return array{subsets: list<array<string, mixed>>, best: array<string, list<string>>}
     */
    public static function of(array $columns, array $names, array $y, int $keep = 2): array
    {
        $p = \count($columns);
        $n = \count($y);
        if ($p > self::MOST || $n <= $p + 1) {
            throw new CannotFit($p > self::MOST ? \sprintf('All subsets are compared of up to %d columns; these are %d. Choose step by step instead.', self::MOST, $p) : 'There are too few rows to compare all subsets.');
        }
        $ones = array_values(array_fill(0, $n, 1.0));
        $full = Qr::solve([$ones, ...$columns], $y);
        if ([] !== $full->dependent) {
            throw new CannotFit(\sprintf('%s said nothing that other columns do not already say; set it aside first.', implode(', ', array_map(static fn (int $j) => $names[$j - 1], $full->dependent))));
        }
        $search = new self($keep);
        $search->follow(self::swept($columns, $y), (1 << $p) - 1, 0, $p);
        $variance = $full->rss / ($n - $p - 1);
        $mean = array_sum($y) / $n;
        $tss = 0.0;
        foreach ($y as $v) {
            $tss += ($v - $mean) ** 2;
        }
        $subsets = [];
        $winners = [];
        for ($size = 0; $size <= $p; ++$size) {
            foreach ($search->best[$size] ?? [] as $rank => [, $bits]) {
                $own = array_values(array_filter(range(0, max(0, $p - 1)), static fn (int $j) => 1 === ($bits >> $j & 1)));
                // Once more by reflections: sweeping is quick, this is exact.
                $rss = 0 === $size ? $tss : Qr::solve([$ones, ...array_map(static fn (int $j) => $columns[$j], $own)], $y)->rss;
                $k = $size + 1;
                $r2 = 1 - $rss / $tss;
                $line = ['size' => $size, 'rank' => $rank + 1, 'columns' => array_map(static fn (int $j) => $names[$j], $own), 'rss' => $rss, 'r2' => $r2, 'adj_r2' => 1 - (1 - $r2) * ($n - 1) / ($n - $k), 'cp' => $rss / $variance - $n + 2 * $k, 'bic' => $n * log($rss / $n) + $k * log($n), 'aic' => $n * log($rss / $n) + 2 * $k];
                $subsets[] = $line;
                foreach (['adj_r2' => -1, 'cp' => 1, 'bic' => 1, 'aic' => 1] as $by => $sign) {
                    if (!isset($winners[$by]) || $sign * $line[$by] < $sign * $winners[$by][0]) {
                        $winners[$by] = [$line[$by], $line['columns']];
                    }
                }
            }
        }

        return ['subsets' => $subsets, 'best' => array_map(static fn (array $w): array => $w[1], $winners)];
    }

    /**
     * Cross products of standardized columns and outcome, swept on every column: the full model.
     *
     * @param list<list<float>> $columns
     * @param list<float>       $y
     *
     * @return list<list<float>>
     */
    private static function swept(array $columns, array $y): array
    {
        $all = [...$columns, $y];
        $n = \count($y);
        $centered = [];
        foreach ($all as $j => $column) {
            $mean = array_sum($column) / $n;
            $square = 0.0;
            foreach ($column as $v) {
                $square += ($v - $mean) ** 2;
            }
            $scale = sqrt(max(1e-300, $square));
            $centered[$j] = array_map(static fn (float $v): float => ($v - $mean) / $scale, $column);
        }
        $a = [];
        foreach ($centered as $i => $x) {
            foreach ($centered as $j => $z) {
                $sum = 0.0;
                foreach ($x as $r => $v) {
                    $sum += $v * $z[$r];
                }
                $a[$i][$j] = $sum;
            }
        }
        $a = array_values(array_map(array_values(...), $a));
        foreach (array_keys($columns) as $k) {
            $a = self::sweep($a, $k, 1.0);
        }

        return $a;
    }

    /**
     * @param list<list<float>> $a
     * @param float             $way 1 takes a column in, -1 takes it out
     *
     * @return list<list<float>>
     */
    private static function sweep(array $a, int $k, float $way): array
    {
        $pivot = $a[$k][$k];
        $row = $a[$k];
        foreach ($a as $i => $own) {
            if ($i === $k) {
                continue;
            }
            $factor = $own[$k] / $pivot;
            foreach ($row as $j => $v) {
                $own[$j] -= $factor * $v;
            }
            $own[$k] = $way * $factor;
            $a[$i] = $own;
        }
        foreach ($row as $j => $v) {
            $row[$j] = $way * $v / $pivot;
        }
        $row[$k] = -1.0 / $pivot;
        $a[$k] = $row;

        return array_values(array_map(array_values(...), $a));
    }

    /**
     * @param list<list<float>> $a    swept on the columns in $bits
     * @param int               $from columns from here on may still be taken out
     */
    private function follow(array $a, int $bits, int $from, int $size): void
    {
        $p = \count($a) - 1;
        $rss = $a[$p][$p];
        $this->keep($size, $rss, $bits);
        // Further down are subsets of size - 1 to size - (p - from), none of them with less rss.
        $hope = false;
        for ($s = $size - 1; $s >= $size - ($p - $from); --$s) {
            $hope = $hope || !isset($this->best[$s][$this->keep - 1]) || $rss < $this->best[$s][$this->keep - 1][0];
        }
        for ($j = $from; $hope && $j < $p; ++$j) {
            $this->follow(self::sweep($a, $j, -1.0), $bits & ~(1 << $j), $j + 1, $size - 1);
        }
    }

    private function keep(int $size, float $rss, int $bits): void
    {
        $list = $this->best[$size] ?? [];
        $list[] = [$rss, $bits];
        usort($list, static fn (array $x, array $y) => $x[0] <=> $y[0]);
        $this->best[$size] = \array_slice($list, 0, $this->keep);
    }
}
