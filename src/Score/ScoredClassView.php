<?php

declare(strict_types=1);

namespace App\Score;

/** How many records of a batch have this as their likeliest class. */
final readonly class ScoredClassView
{
    public function __construct(public string $name, public int $records)
    {
    }
}
