<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** The rows that trees are grown on: codes by column (Design\Codes), and what is predicted. */
final readonly class Cells
{
    /**
     * @param list<list<int>>  $codes   per column, one code per row; 0 = missing
     * @param list<int>        $sizes   per column, the largest code
     * @param list<?list<int>> $levels  per column: null for an order; else the place in byte order of each code from 1 on
     * @param list<int|float>  $y       the place of the class, or the number
     * @param ?list<int|float> $weights per row
     * @param int              $classes 0 for a number
     * @param ?list<int>       $times   the weights as whole numbers, where they are how often a row was drawn
     */
    public function __construct(public array $codes, public array $sizes, public array $levels, public array $y, public ?array $weights, public int $classes, public ?array $times = null)
    {
    }

    /** Whether rows count whole times, so that sums of them are whole numbers. */
    public function isWhole(): bool
    {
        return null === $this->weights || null !== $this->times;
    }

    /**
     * @param array<int, int> $rows a list
     *
     * @return list<float> weight, sum and sum of squares of a number
     */
    public function moments(array $rows, int $from, int $end): array
    {
        $y = $this->y;
        $weights = $this->weights;
        $n = $sum = $squares = 0.0;
        for ($i = $from; $i < $end; ++$i) {
            $r = $rows[$i];
            $w = $weights[$r] ?? 1.0;
            $v = $y[$r];
            $n += $w;
            $sum += $w * $v;
            $squares += $w * $v * $v;
        }

        return [$n, $sum, $squares];
    }
}
