<?php

declare(strict_types=1);

namespace App\Reasons;

/** Two columns that act together, clear of chance. */
final readonly class ClearPairView
{
    public function __construct(public string $one, public string $other, public float $beyond)
    {
    }
}
