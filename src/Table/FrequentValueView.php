<?php

declare(strict_types=1);

namespace App\Table;

/** A value with how often it occurs. */
final readonly class FrequentValueView
{
    public function __construct(public string $value, public int $count, public float $share)
    {
    }
}
