<?php

declare(strict_types=1);

namespace App\Trial;

/** The figure of a trial that learned from a share of the training rows. */
final readonly class CurvePoint
{
    public function __construct(public float $share, public int $rows, public ?float $value, public ?float $low, public ?float $high)
    {
    }
}
