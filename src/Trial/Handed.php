<?php

declare(strict_types=1);

namespace App\Trial;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Question\Questions;

/**
 * Fits a trial once more on all records, sealed ones too, after it was examined: the model that is handed on. Its figures stay those of
 * the examined one.
 */
final readonly class Handed
{
    public function __construct(private Jobs $jobs, private Questions $questions)
    {
    }

    /** @throws Problem while the seal of the trial is closed, or when it stands on rows of before */
    public function start(Trial $trial, User $user): Job
    {
        if (!$trial->isDone()) {
            throw new Problem(409, \sprintf('Trial %d is not done.', $trial->number()));
        }
        if (null === $trial->opening() || $this->questions->seal($trial->study())->isClosed()) {
            throw new Problem(409, 'Open the seal for this trial first: a model is examined before it learns from all records.');
        }
        if ([] !== Ancestry::stale($trial) || !Ancestry::onItsRows($trial)) {
            throw new Problem(409, \sprintf('Trial %d is stale: fit it again, and examine that one.', $trial->number()));
        }

        return $this->jobs->once(
            $trial->study(),
            $user,
            HandedRunner::KIND,
            $trial->id(),
            \sprintf('Trial %d on all records, for use', $trial->number()),
            Jobs::LONG,
            ['all' => []],
        );
    }

    public function running(Trial $trial): ?Job
    {
        return $this->jobs->underWay(HandedRunner::KIND, $trial->id());
    }
}
