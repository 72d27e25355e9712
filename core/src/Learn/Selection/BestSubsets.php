<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Selection;

use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Design\Standardized;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Math\Qr;

/** The best subsets of each size by residual sum of squares, with the figures by which sizes are compared. */
final class BestSubsets
{
    /**
     * Subsets by size, the best of each first; the names of the best by each criterion.
     *
     * @param list<list<float>> $columns one list of numbers per candidate
     * @param list<string>      $names
     * @param list<float>       $y
     * @param int               $keep    subsets of each size
     *
     * @return array{subsets: list<array<string, mixed>>, best: array<string, list<string>>}
     *
     * @throws CannotFit All subsets are compared of up to … columns; these are …. Choose step by step instead. and more
     */
    public static function of(array $columns, array $names, array $y, int $keep = 2): array
    {
        $p = \count($columns);
        $n = \count($y);
        if ($p > Screen::MOST || $n <= $p + 1) {
            throw new CannotFit($p > Screen::MOST ? \sprintf('All subsets are compared of up to %d columns; these are %d. Choose step by step instead.', Screen::MOST, $p) : 'There are too few rows to compare all subsets.');
        }
        $ones = array_values(array_fill(0, $n, 1.0));
        $full = Qr::solve([$ones, ...$columns], $y);
        if ([] !== $full->dependent) {
            throw new CannotFit(\sprintf('%s said nothing that other columns do not already say; set it aside first.', implode(', ', array_map(static fn (int $j) => $names[$j - 1], $full->dependent))));
        }
        $weights = array_map(static fn (array $part): array => array_fill(0, \count($part), 1.0), array_chunk($y, Matrix::BLOCK));
        [$x] = Standardized::of(Matrix::ofColumns([$ones, ...$columns], ['(intercept)', ...$names], $n), $weights, (float) $n);
        $variance = $full->rss / ($n - $p - 1);
        $mean = array_sum($y) / $n;
        $tss = 0.0;
        $centered = [];
        foreach ($y as $v) {
            $centered[] = $v - $mean;
            $tss += ($v - $mean) ** 2;
        }
        $ranked = Subsets::ranked(...[...Screen::products($x, $weights, array_map(static fn (array $part): array => [$part], array_chunk($centered, Matrix::BLOCK))), array_map(static fn (int $j): array => [$j], array_keys($columns)), $keep]);
        $subsets = [];
        $winners = [];
        foreach ($ranked as $size => $found) {
            foreach ($found as $rank => ['groups' => $own]) {
                // Once more by reflections: the search is quick, this is exact.
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
}
