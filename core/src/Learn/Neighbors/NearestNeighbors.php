<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Neighbors;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\InnerFolds;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Progress;
use Dokimos\Core\Random;
use Dokimos\Core\Setting;
use Dokimos\Core\Silent;
use Dokimos\Core\Task\Task;

/** The mean of the training rows most like a record (Cover and Hart 1967). Definition: docs/methods/neighbors.md. */
final readonly class NearestNeighbors implements Learner
{
    private const WEIGHED = [5, 15, 31, 61, 101, 201];
    private const FOLDS = 5;
    /** Cells that are looked at, at most, to choose how many neighbors to take: of more rows fewer are asked. */
    private const CELLS = 4e9;
    private const FEWEST = 500;

    /** @var array<string, string|float|int|bool> */
    private array $settings;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        $this->settings = GivenSettings::of(self::described()->title, self::described()->settings, $given);
    }

    public static function card(): Card
    {
        return new Card(1, NeighborsModel::class, 200, 60, searched: ['weights' => ['list' => [Votes::ALIKE, Votes::NEARER]]]);
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner(
            'neighbors',
            'Nearest neighbors',
            'Finds the training records most like a record and takes their mean. Its reasons are the records themselves.',
            [Task::TWO, Task::MORE, Task::NUMBER],
            [
                new Setting(
                    'find',
                    'Choose how many on inner folds',
                    Setting::YES,
                    true,
                    'Five folds of the training rows tell how many neighbors lose least.',
                ),
                new Setting(
                    'k',
                    'Neighbors',
                    Setting::WHOLE,
                    31,
                    'More smooth what is said; fewer follow single records.',
                    1,
                    10_000,
                    when: ['find' => ['no']],
                ),
                new Setting(
                    'weights',
                    'Neighbors count',
                    Setting::CHOICE,
                    Votes::ALIKE,
                    'All alike, or the nearer ones more: by one over their distance.',
                    choices: [Votes::ALIKE, Votes::NEARER],
                ),
                new Setting(
                    'smoothing',
                    'Records as all are, added',
                    Setting::NUMBER,
                    1.0,
                    'More draw chances toward the share among all training rows.',
                    0.0,
                    1000.0,
                    tasks: [Task::TWO, Task::MORE],
                ),
            ],
        );
    }

    public function settings(): array
    {
        return $this->settings;
    }

    /** @throws CannotFit No training row has a known outcome, so there is nothing to learn from. */
    public function fit(Task $task, ?Progress $progress = null): NeighborsModel
    {
        $progress ??= new Silent();
        $rows = CannotFit::withoutRows($task);
        $weighed = true === $this->settings['find'] ? $this->weighed($task, $rows, $progress) : [];
        $k = (int) $this->settings['k'];
        $least = \INF;
        foreach ($weighed as $w) {
            [$k, $least] = $w['loss'] < $least ? [$w['k'], $w['loss']] : [$k, $least];
        }
        $model = $this->on($task, $rows, $k, $weighed);
        $progress->report(1.0);

        return $model;
    }

    /**
     * @param list<int>                        $rows
     * @param list<array{k: int, loss: float}> $weighed
     */
    private function on(Task $task, array $rows, int $k, array $weighed): NeighborsModel
    {
        $space = Space::learn($task->table, $task->inputs, $rows);
        $notes = [];
        foreach ($space->leftOut as $name => $why) {
            $notes[] = \sprintf('%s is not used: %s.', $name, $why);
        }
        $votes = Votes::of($task, $rows, (string) $this->settings['weights'], (float) $this->settings['smoothing']);

        return new NeighborsModel($space, $space->of($task->table, $rows, false), $votes, min($k, \count($rows)), $rows, $weighed, $notes);
    }

    /**
     * @param list<int> $rows
     *
     * @return list<array{k: int, loss: float}>
     */
    private function weighed(Task $task, array $rows, Progress $progress): array
    {
        $folds = InnerFolds::of($task, $rows, self::FOLDS, 'neighbors');
        $most = (int) min(array_map(static fn (array $f): int => \count($f[0]), $folds) ?: [0]);
        $asked = array_values(array_filter(self::WEIGHED, static fn (int $k): bool => $k <= $most));
        if (\count($asked) < 2) {
            return [];
        }
        $random = Random::stream(null, 'neighbors asked');
        $many = max(self::FEWEST, (int) (self::CELLS / (\count($rows) * max(1, \count($task->inputs)))));
        $losses = array_fill_keys($asked, 0.0);
        $weight = 0.0;
        foreach ($folds as $f => [$learn, $judge]) {
            $model = $this->on($task, $learn, $asked[\count($asked) - 1], []);
            $some = \array_slice($random->shuffleArray($judge), 0, (int) ceil($many / self::FOLDS));
            foreach ($model->losses($task, $some, $asked) as $k => $loss) {
                $losses[$k] += $loss;
            }
            foreach ($some as $row) {
                $weight += $task->weights[$row] ?? 1.0;
            }
            $progress->report(0.95 * ($f + 1) / \count($folds));
        }

        return array_map(
            static fn (int $k, float $loss): array => ['k' => $k, 'loss' => $loss / max(1e-300, $weight)],
            array_keys($losses),
            array_values($losses),
        );
    }
}
