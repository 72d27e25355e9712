<?php

declare(strict_types=1);

namespace App\Decision;

/** One scored record; without a chance it says why. */
final readonly class ScoredRowView
{
    /** @param list<string|null> $cells */
    public function __construct(public int $number, public ?float $chance, public ?bool $called, public string $reasons, public ?string $why, public array $cells)
    {
    }
}
