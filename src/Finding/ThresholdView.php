<?php

declare(strict_types=1);

namespace App\Finding;

/** One threshold of a study: its value, the usual one, and what it decides. */
final readonly class ThresholdView
{
    public function __construct(public string $name, public float $value, public float $usual, public string $says)
    {
    }
}
