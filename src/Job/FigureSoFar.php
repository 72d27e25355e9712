<?php

declare(strict_types=1);

namespace App\Job;

/** The figure that running work has reached with the parts already done. */
final readonly class FigureSoFar
{
    /** @param int $parts of how many parts it is the mean */
    public function __construct(public string $name, public float $value, public int $parts)
    {
    }
}
