<?php

declare(strict_types=1);

namespace App\Preparation;

/** A column that steps may name. */
final readonly class CandidateView
{
    public function __construct(public string $name, public string $kind, public int $missing)
    {
    }
}
