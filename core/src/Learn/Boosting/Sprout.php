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
     * @param list<int> $rows  until it is divided
     * @param float     $low   what its answer may not fall below, where the model may only rise or fall
     * @param int       $total gradient, curvature and count of its rows, packed
     */
    public function __construct(public array $rows, public int $depth, public float $low, public float $high, public int $total)
    {
    }
}
