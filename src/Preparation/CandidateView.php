<?php

declare(strict_types=1);

namespace App\Preparation;

/** A column that steps may name. */
final readonly class CandidateView
{
    /** @param list<string> $levels values of a category, the first ones; only where a step is looked at closely */
    public function __construct(public string $name, public string $kind, public int $missing, public array $levels)
    {
    }
}
