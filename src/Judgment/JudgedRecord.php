<?php

declare(strict_types=1);

namespace App\Judgment;

/** A validation row with the chance it was given. */
final readonly class JudgedRecord
{
    /** @param list<string|null> $cells */
    public function __construct(public int $number, public float $chance, public bool $event, public array $cells)
    {
    }
}
