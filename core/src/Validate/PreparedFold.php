<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Prepare\FittedPreparation;
use Dokimos\Core\Task\Task;

/** Training rows of a fold with the preparation fitted on them: one serves every learner and setting that shares its steps. */
final readonly class PreparedFold
{
    /**
     * @param Task      $task       what a learner is given
     * @param list<int> $training   rows that the preparation was given
     * @param list<int> $validation rows that were kept from it
     */
    public function __construct(
        public TrialData $data,
        public FittedPreparation $fitted,
        public Task $task,
        public array $training,
        public array $validation,
    ) {
    }
}
