<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** What a figure loses when a column is shuffled. */
final readonly class LostView
{
    public function __construct(public string $column, public ?float $value, public ?float $low, public ?float $high)
    {
    }
}
