<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Baseline;

use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\Task;
use Dokimos\Core\Progress;

/** Doing nothing clever: every record gets the event's share among the training rows. */
final readonly class Baseline implements Learner
{
    public function name(): string
    {
        return 'baseline';
    }

    public function settings(): array
    {
        return [];
    }

    public function fit(Task $task, ?Progress $progress = null): BaselineModel
    {
        $sum = $weight = 0.0;
        foreach ($task->usable() as $row) {
            $w = $task->weights[$row] ?? 1.0;
            $weight += $w;
            $sum += $w * $task->event[$row];
        }
        if ($weight <= 0.0) {
            throw new CannotFit('No training row has a known outcome, so there is nothing to learn from.');
        }

        return new BaselineModel($sum / $weight);
    }
}
