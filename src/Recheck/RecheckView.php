<?php

declare(strict_types=1);

namespace App\Recheck;

/** A model on newer records. */
final readonly class RecheckView
{
    /**
     * @param 'waiting'|'done'|'failed' $state
     * @param string                    $verdict too few to tell, holds, wearing off or no longer; empty until it is done
     * @param ?string                   $by      column that the newer records are in order of
     * @param object                    $told    reasons, figures, promise, calibration, columns, periods, groups and remedies:
     *                                           docs/methods/recheck.md
     */
    public function __construct(
        public int $id,
        public int $number,
        public string $state,
        public string $verdict,
        public ?string $failure,
        public int $trialId,
        public int $trialNumber,
        public string $learner,
        public int $tableId,
        public string $tableName,
        public int $rows,
        public ?string $by,
        public string $doneBy,
        public string $at,
        public object $told,
    ) {
    }
}
