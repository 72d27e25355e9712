<?php

declare(strict_types=1);

namespace App\TakeAway;

/** What came of scoring inside a database. */
final readonly class InsideView
{
    public function __construct(public int $rows, public float $seconds, public string $says, public string $into, public bool $draft)
    {
    }
}
