<?php

declare(strict_types=1);

namespace App\Reasons;

/** What a figure loses when columns that go together are shuffled as one. */
final readonly class LostTogetherView
{
    /** @param list<string> $columns */
    public function __construct(public array $columns, public ?float $value, public ?float $low, public ?float $high)
    {
    }
}
