<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Baseline;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\LearnerSetting;
use Dokimos\Core\Learn\Task;
use Dokimos\Core\Progress;

/** Doing nothing clever: every record gets the shares of the classes among the training rows, or their mean. */
final readonly class Baseline implements Learner
{
    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        LearnerSetting::values(self::described()->title, [], $given);
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner('baseline', 'Baseline', 'Gives every record the average chance, or the mean. What doing nothing clever would score.', [AboutLearner::TWO, AboutLearner::MORE, AboutLearner::NUMBER], []);
    }

    public function settings(): array
    {
        return [];
    }

    public function fit(Task $task, ?Progress $progress = null): BaselineModel
    {
        $sums = array_fill(0, null === $task->classes ? 1 : \count($task->classes), 0.0);
        $weight = 0.0;
        foreach ($task->usable() as $row) {
            $w = $task->weights[$row] ?? 1.0;
            $weight += $w;
            if (null === $task->classes) {
                $sums[0] += $w * $task->outcome[$row];
            } else {
                $sums[(int) $task->outcome[$row]] += $w;
            }
        }
        if ($weight <= 0.0) {
            throw new CannotFit('No training row has a known outcome, so there is nothing to learn from.');
        }

        return new BaselineModel(array_values(array_map(static fn (float $s) => $s / $weight, $sums)), $task->classes);
    }
}
