<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

/** Columns centered and scaled, so that a date or an amount in cents costs no digits. */
final class Standardized
{
    /**
     * @param list<list<float>> $weights
     * @param bool              $scale   otherwise columns are centered only, and all spreads are 1
     *
     * @return array{Matrix, list<float>, list<float>} centered and scaled matrix, means, spreads (0 and 1 for the constant)
     */
    public static function of(Matrix $x, array $weights, float $weightSum, bool $scale = true): array
    {
        $width = \count($x->names);
        $means = array_fill(0, $width, 0.0);
        $spreads = array_fill(0, $width, 1.0);
        for ($j = 1; $j < $width; ++$j) {
            $sum = 0.0;
            foreach ($x->column($j) as $b => $column) {
                $w = $weights[$b];
                foreach ($column as $r => $v) {
                    $sum += $w[$r] * $v;
                }
            }
            $mean = $sum / $weightSum;
            $largest = 0.0;
            foreach ($x->column($j) as $column) {
                $largest = max($largest, abs(max([$mean, ...$column]) - $mean), abs(min([$mean, ...$column]) - $mean));
            }
            // Squares of very large or very small numbers would leave what a double holds.
            $unit = $largest > 1e140 || ($largest > 0.0 && $largest < 1e-140) ? $largest : 1.0;
            $square = 0.0;
            foreach ($x->column($j) as $b => $column) {
                $w = $weights[$b];
                foreach ($column as $r => $v) {
                    $d = ($v - $mean) / $unit;
                    $square += $w[$r] * $d * $d;
                }
            }
            $means[$j] = $mean;
            $spread = $unit * sqrt($square / $weightSum);
            $spreads[$j] = $scale && $spread > 1e-300 ? $spread : 1.0;
        }
        $moved = [[0.0, 1.0]];
        for ($j = 1; $j < $width; ++$j) {
            $moved[] = [$means[$j], 1.0 / $spreads[$j]];
        }

        /** @var list<float> $means */
        /** @var list<float> $spreads */
        return [$x->moved($moved), $means, $spreads];
    }
}
