<?php

declare(strict_types=1);

namespace App\Score;

use OpenApi\Attributes as OA;

/** A batch with its outcome in numbers. */
final readonly class ScoringView
{
    /**
     * @param bool                  $handed    whether the model fitted once more on all records scored it
     * @param list<int>             $histogram records per fortieth of the chance, or of the range of a number
     * @param list<string>          $columns   the table's columns, to carry along
     * @param list<ScoredClassView> $classes   of several
     * @param ?float                $lowest    of the numbers predicted
     * @param ?int                  $doubtful  records of low confidence; null where there are too many records to count at once
     * @param \stdClass             $answers   by column what became of values beyond training
     * @param \stdClass             $matching  asked column => found column
     */
    public function __construct(
        public int $id,
        public int $studyId,
        public int $trialId,
        public int $trialNumber,
        public string $trialTitle,
        public bool $handed,
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
        public string $task,
        public string $target,
        public array $classes,
        public ?float $lowest,
        public ?float $highest,
        public ?float $mean,
        public ?int $doubtful,
        #[OA\Property(type: 'object', additionalProperties: new OA\AdditionalProperties(type: 'string'))]
        public \stdClass $matching,
        #[OA\Property(type: 'object', additionalProperties: new OA\AdditionalProperties(type: 'string'))]
        public \stdClass $answers,
        /** Whether nobody has approved the trial for use */
        public bool $draft,
    ) {
    }
}
