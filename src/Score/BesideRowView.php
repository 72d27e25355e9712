<?php

declare(strict_types=1);

namespace App\Score;

/** A record as two batches answer for it. */
final readonly class BesideRowView
{
    public function __construct(public int $number, public ?string $key, public string $first, public string $other)
    {
    }
}
