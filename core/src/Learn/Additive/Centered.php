<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

/**
 * A table without what its rows and columns do by themselves: means of rows, then of columns, each weighed by cell, are taken out in turn
 * (sweeps of a two-way table). Definition: docs/methods/additive.md.
 */
final readonly class Centered
{
    /**
     * @param list<float> $rest   by cell
     * @param list<float> $first  what went to the column across the height
     * @param list<float> $second what went to the column across the width
     */
    private function __construct(public array $rest, public array $first, public array $second)
    {
    }

    /**
     * @param array<float> $table   height x width cells, row after row
     * @param array<float> $weights of the cells; a row or column without weight is left as it is
     */
    public static function of(array $table, array $weights, int $height, int $width, int $turns): self
    {
        $first = array_fill(0, $height, 0.0);
        $second = array_fill(0, $width, 0.0);
        for ($turn = 0; $turn < $turns; ++$turn) {
            for ($i = 0; $i < $height; ++$i) {
                $sum = $all = 0.0;
                for ($j = 0; $j < $width; ++$j) {
                    $sum += $weights[$i * $width + $j] * $table[$i * $width + $j];
                    $all += $weights[$i * $width + $j];
                }
                $mean = $all > 0.0 ? $sum / $all : 0.0;
                $first[$i] += $mean;
                for ($j = 0; $j < $width; ++$j) {
                    $table[$i * $width + $j] -= $mean;
                }
            }
            for ($j = 0; $j < $width; ++$j) {
                $sum = $all = 0.0;
                for ($i = 0; $i < $height; ++$i) {
                    $sum += $weights[$i * $width + $j] * $table[$i * $width + $j];
                    $all += $weights[$i * $width + $j];
                }
                $mean = $all > 0.0 ? $sum / $all : 0.0;
                $second[$j] += $mean;
                for ($i = 0; $i < $height; ++$i) {
                    $table[$i * $width + $j] -= $mean;
                }
            }
        }

        return new self(array_values($table), array_values($first), array_values($second));
    }
}
