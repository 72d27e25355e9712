<?php

declare(strict_types=1);

namespace App\Reasons;

/** What a column does to the answers of a group, on average. */
final readonly class GroupEffect
{
    public function __construct(public string $column, public float $value)
    {
    }
}
