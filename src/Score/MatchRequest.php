<?php

declare(strict_types=1);

namespace App\Score;

/** Which trial scores which table, with columns corrected by hand. */
final readonly class MatchRequest
{
    /**
     * @param array<string, string> $matching asked column => found column
     * @param array<string, string> $answers  by column what becomes of values beyond training: score, hold or leave out
     */
    public function __construct(
        public int $trialId = 0,
        public int $tableId = 0,
        public array $matching = [],
        public float $cutoff = 0.5,
        public array $answers = [],
    ) {
    }
}
