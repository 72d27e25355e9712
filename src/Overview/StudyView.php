<?php

declare(strict_types=1);

namespace App\Overview;

use Dokimos\Core\Validate\SplitPlan;

/** A study: where it stands, what waits, and the figures of its thread. */
final readonly class StudyView
{
    /**
     * @param string                 $task       what is predicted: "two classes" (an event), "several classes" or "number"
     * @param list<string>           $classes    of several, in order
     * @param int                    $station    the furthest station reached, 1 to 6
     * @param list<string>           $waits      what waits for a decision
     * @param list<StudyTableView>   $tables
     * @param list<StudyTrialView>   $trials
     * @param list<StudyScoringView> $scorings
     * @param list<string>           $otherSeals
     */
    public function __construct(
        public int $id,
        public int $version,
        public string $name,
        public string $question,
        public string $role,
        public ?int $tableId,
        public ?string $tableName,
        public int $rows,
        public int $columns,
        public ?string $target,
        public ?string $event,
        public string $task,
        public array $classes,
        public ?SplitPlan $plan,
        public int $sealedRows,
        public int $openRows,
        public int $sealOpenings,
        public int $station,
        public array $waits,
        public array $tables,
        public array $trials,
        public array $scorings,
        public int $logEntries,
        public ?string $lastSentence,
        public string $lastAt,
        /** What other questions sealed of the same records, in a sentence each */
        public array $otherSeals,
        /** Days that what was scored stays; 0 = for good */
        public int $keepDays,
    ) {
    }
}
