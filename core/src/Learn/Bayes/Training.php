<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\InnerFolds;
use Dokimos\Core\Progress;
use Dokimos\Core\Setting;
use Dokimos\Core\Task\Task;

/** Training rows of a question about classes, as Bayes' rule counts them. */
final readonly class Training
{
    public const HELPS = 'where it helps';
    public const NO = 'no';
    private const FOLDS = 5;

    /**
     * @param list<int>   $rows
     * @param list<int>   $classes of these rows
     * @param list<float> $weights of these rows
     * @param list<float> $priors  logarithm of the share of each class
     */
    private function __construct(public Task $task, public array $rows, public array $classes, public array $weights, public array $priors)
    {
    }

    /** @throws CannotFit when there is nothing to count */
    public static function of(Task $task, string $title): self
    {
        if (null === $task->classes) {
            throw new CannotFit($title.' tells classes apart; this outcome is a number.');
        }
        $rows = CannotFit::withoutRows($task);
        $classes = $weights = [];
        $sums = array_fill(0, \count($task->classes), 0.0);
        foreach ($rows as $row) {
            $classes[] = $class = (int) $task->outcome[$row];
            $weights[] = $weight = $task->weights[$row] ?? 1.0;
            $sums[$class] += $weight;
        }
        $all = array_sum($sums);

        return new self(
            $task,
            $rows,
            $classes,
            $weights,
            array_map(static fn (float $s): float => $s > 0.0 ? log($s / $all) : -1e6, array_values($sums)),
        );
    }

    public static function setting(): Setting
    {
        return new Setting(
            'calibrate',
            'Bring chances back to what came',
            Setting::CHOICE,
            self::HELPS,
            'Columns that say the same twice make its chances too sure. Inner folds tell whether bringing them back lowers the log loss.',
            choices: [self::HELPS, self::NO],
        );
    }

    /**
     * How its chances are brought back, if that helps.
     *
     * @param \Closure(self): (\Closure(list<int>): list<list<float>>) $fit what gives the logarithms of classes of other rows
     *
     * @return array{?Temper, list<string>} and a sentence on it
     */
    public function tempered(string $how, string $purpose, \Closure $fit, Progress $progress): array
    {
        if (self::NO === $how) {
            return [null, []];
        }
        $place = array_flip($this->rows);
        $logs = array_fill(0, \count($this->priors), []);
        $classes = $weights = $fold = [];
        $folds = InnerFolds::of($this->task, $this->rows, self::FOLDS, $purpose);
        foreach ($folds as $k => [$learn, $judge]) {
            foreach ($fit(self::of($this->task->on($learn), ''))($judge) as $class => $own) {
                array_push($logs[$class], ...$own);
            }
            foreach ($judge as $row) {
                $classes[] = $this->classes[$place[$row]];
                $weights[] = $this->weights[$place[$row]];
                $fold[] = $k;
            }
            $progress->report(0.3 + 0.7 * ($k + 1) / \count($folds));
        }
        if (\count($folds) < 2) {
            return [null, []];
        }
        [$temper, $before, $after] = Temper::chosen(array_values($logs), $classes, $weights, $fold);

        return [$temper, match (true) {
            is_nan($before) => [],
            null === $temper => [\sprintf(
                'Its chances are as they come: bringing them back would not lower the log loss of inner folds (%.4f).',
                $before,
            )],
            default => [\sprintf(
                'Its chances were too sure and are brought back by inner folds: log loss %.4f, before %.4f.',
                $after,
                $before,
            )],
        }];
    }
}
