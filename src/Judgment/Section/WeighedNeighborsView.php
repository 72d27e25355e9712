<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** What so many neighbors lose on inner folds. */
final readonly class WeighedNeighborsView
{
    public function __construct(public int $neighbors, public float $loss)
    {
    }
}
