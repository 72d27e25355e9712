<?php

declare(strict_types=1);

namespace App\Reasons;

/** What one column does to the chance: log-odds above or below the average record. */
final readonly class ContributionView
{
    public function __construct(public string $column, public ?string $value, public float $effect)
    {
    }
}
