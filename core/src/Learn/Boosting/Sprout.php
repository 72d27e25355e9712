<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Boosting;

use Dokimos\Core\Learn\Tree\Division;

/** A node while its tree grows. */
final class Sprout
{
    public ?Division $best = null;
    /** @var list<array<int, int>> per column, by code */
    public array $histograms = [];
    public float $value = 0.0;
    public int $left = -1;
    public int $right = -1;

    /**
     * @param int   $from  where its rows begin among those of its depth
     * @param int   $end   after the last; where rows of the last level are not told apart, no more than $from
     * @param float $low   what its answer may not fall below, where the model may only rise or fall
     * @param int   $total gradient, curvature and count of its rows, packed
     */
    public function __construct(public int $from, public int $end, public int $depth, public float $low, public float $high, public int $total)
    {
    }
}
