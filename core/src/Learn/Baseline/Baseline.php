<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Baseline;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\HeldOut;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\Tree\DecisionTree;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Progress;
use Dokimos\Core\Setting;
use Dokimos\Core\Silent;
use Dokimos\Core\Task\Task;

/**
 * What anything clever has to beat: the shares of the classes among the training rows, the mean, the median, or what one column says
 * (Holte 1993, here as a small tree). Definition: docs/methods/baseline.md.
 */
final readonly class Baseline implements Learner
{
    private const AVERAGE = 'share or mean';
    private const MEDIAN = 'median';
    private const COLUMN = 'rule by one column';
    private const HELD = 0.2;

    /** @var array<string, string|float|int|bool> */
    private array $settings;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        $this->settings = GivenSettings::of(self::described()->title, self::described()->settings, $given);
    }

    public static function card(): Card
    {
        return new Card(6, BaselineModel::class, 40, 0);
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner('baseline', 'Baseline', 'Gives every record the average chance, or the mean; or goes by one column alone. What doing nothing clever would score.', [Task::TWO, Task::MORE, Task::NUMBER], [
            new Setting('answer', 'Answers with', Setting::CHOICE, self::AVERAGE, 'The median is for numbers. One column: the one whose up to three questions in a row do best on rows kept back.', choices: [self::AVERAGE, self::MEDIAN, self::COLUMN]),
        ], needsColumns: false);
    }

    public function settings(): array
    {
        return $this->settings;
    }

    /** @throws CannotFit No training row has a known outcome, so there is nothing to learn from. and more */
    public function fit(Task $task, ?Progress $progress = null): Model
    {
        CannotFit::withoutRows($task);

        return match ($this->settings['answer']) {
            self::MEDIAN => null === $task->classes ? new BaselineModel([self::median($task)], null) : throw new CannotFit('The median is for numbers; this outcome has classes.'),
            self::COLUMN => self::byColumn($task, $progress ?? new Silent()),
            default => self::average($task),
        };
    }

    private static function average(Task $task): BaselineModel
    {
        $sums = array_fill(0, null === $task->classes ? 1 : \count($task->classes), 0.0);
        $weight = 0.0;
        foreach ($task->usable() as $row) {
            $w = $task->weights[$row] ?? 1.0;
            $weight += $w;
            if (null === $task->classes) {
                // Step by step: the sum of very large numbers may be no number.
                $sums[0] += ($task->outcome[$row] - $sums[0]) * ($w / $weight);
            } else {
                $sums[(int) $task->outcome[$row]] += $w;
            }
        }

        return new BaselineModel(null === $task->classes ? array_values($sums) : array_values(array_map(static fn (float $s) => $s / $weight, $sums)), $task->classes);
    }

    /** The value with half of the weight below; between two of them the middle. */
    private static function median(Task $task): float
    {
        $rows = $task->usable();
        usort($rows, static fn (int $a, int $b): int => $task->outcome[$a] <=> $task->outcome[$b]);
        $half = 0.0;
        foreach ($rows as $row) {
            $half += 0.5 * ($task->weights[$row] ?? 1.0);
        }
        $below = 0.0;
        foreach ($rows as $i => $row) {
            $below += $task->weights[$row] ?? 1.0;
            if ($below > $half * (1 + 1e-12)) {
                return $task->outcome[$row];
            }
            if ($below >= $half * (1 - 1e-12) && isset($rows[$i + 1])) {
                return 0.5 * $task->outcome[$row] + 0.5 * $task->outcome[$rows[$i + 1]];
            }
        }

        return $task->outcome[$rows[\count($rows) - 1]];
    }

    private static function byColumn(Task $task, Progress $progress): TreeModel
    {
        $usable = $task->usable();
        [$rows, $held] = HeldOut::parts($task, $usable, self::HELD, 'one column');
        $only = static fn (string $name, array $of): TreeModel => (new DecisionTree(['depth' => 3, 'judged' => 0.0]))->fit($task->on(array_values(array_filter($of, is_int(...))), [$name]));
        $best = null;
        foreach ($task->inputs as $i => $name) {
            $progress->report(0.9 * $i / \count($task->inputs));
            $loss = HeldOut::loss($only($name, $rows), $task, [] === $held ? $rows : $held);
            if (null === $best || $loss < $best[1]) {
                $best = [$name, $loss];
            }
        }
        if (null === $best) {
            throw new CannotFit('There is no column to go by.');
        }
        $model = $only($best[0], $usable);
        $note = 1 === \count($model->nodes) ? 'No column says more than the average.' : \sprintf('Goes by %s, which did best of %d columns on rows kept back.', $best[0], \count($task->inputs));

        return new TreeModel($model->nodes, $task->classes, $model->leftOut, [$note]);
    }
}
