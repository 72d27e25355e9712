<?php

declare(strict_types=1);

namespace App\Score;

/** Which trial scores which table, with columns corrected by hand. */
final readonly class MatchRequest
{
    /** @param array<string, string> $matching asked column => found column */
    public function __construct(public int $trialId = 0, public int $tableId = 0, public array $matching = [], public float $cutoff = 0.5)
    {
    }
}
