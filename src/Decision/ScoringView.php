<?php

declare(strict_types=1);

namespace App\Decision;

/** A batch with its outcome in numbers. */
final readonly class ScoringView
{
    /**
     * @param list<int>    $histogram records per fortieth of the chance
     * @param list<string> $columns   the table's columns, to carry along
     */
    public function __construct(
        public int $id,
        public int $studyId,
        public int $trialId,
        public int $trialNumber,
        public string $trialTitle,
        public int $tableId,
        public string $tableName,
        public float $cutoff,
        public string $state,
        public int $rows,
        public int $scored,
        public int $called,
        public float $expectedEvents,
        public string $event,
        public array $histogram,
        public array $columns,
        public string $createdAt,
    ) {
    }
}
