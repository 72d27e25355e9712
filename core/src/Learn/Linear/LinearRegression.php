<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Linear;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\LearnerSetting;
use Dokimos\Core\Learn\Selection\Candidate;
use Dokimos\Core\Learn\Selection\Choice;
use Dokimos\Core\Learn\Task;
use Dokimos\Core\Math\Qr;
use Dokimos\Core\Progress;
use Dokimos\Core\Silent;

/** Ordinary least squares; formulas and sources: docs/methods/linear-regression.md. */
final readonly class LinearRegression implements Learner
{
    /** @var array<string, string|float|int|bool> */
    private array $settings;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        $this->settings = LearnerSetting::values(self::described()->title, self::described()->settings, $given);
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner('linear', 'Linear regression', 'Adds up one effect per column. Readable term by term, quick, and hard to beat when effects are steady.', [AboutLearner::NUMBER], Choice::settings());
    }

    public function settings(): array
    {
        return $this->settings;
    }

    public function fit(Task $task, ?Progress $progress = null): LinearModel
    {
        if ('all of them' === $this->settings['selection']) {
            return $this->fitted($task, [], $progress);
        }
        $usable = $task->usable();
        $all = Coding::learn($task->table, $task->inputs, $usable);
        // The same rows for every candidate, or their sums of squares could not be compared.
        $rows = $all->complete($task->table, $usable);
        $chosen = Choice::of($this->settings, $all->columns, \count($rows), function (array $columns) use ($task, $rows): Candidate {
            $figures = $this->fitted(new Task($task->table, $columns, $task->outcome, $rows, $task->weights, null), [])->figures;

            return new Candidate($figures->logLikelihood, $figures->parameters, $figures->rowsUsed, $figures->rss);
        }, $progress ?? new Silent());

        return $this->fitted(new Task($task->table, $chosen['final'], $task->outcome, $rows, $task->weights, null), $chosen['trace'], $progress);
    }

    /** @param list<array<string, mixed>> $trace */
    private function fitted(Task $task, array $trace, ?Progress $progress = null): LinearModel
    {
        $usable = $task->usable();
        $coding = Coding::learn($task->table, $task->inputs, $usable);
        $rows = $coding->complete($task->table, $usable);
        if ([] === $rows) {
            throw new CannotFit('No training row has a value in every column used. Fill or set aside the columns with missing values first.');
        }
        $matrix = $coding->matrix($task->table, $rows);
        $columns = array_fill(0, \count($matrix->names), []);
        foreach ($matrix->blocks as $block) {
            foreach ($block as $j => $part) {
                foreach ($part as $v) {
                    $columns[$j][] = $v;
                }
            }
        }
        $y = $roots = [];
        foreach ($rows as $row) {
            $root = sqrt($task->weights[$row] ?? 1.0);
            $roots[] = $root;
            $y[] = $root * $task->outcome[$row];
        }
        if (null !== $task->weights) {
            foreach ($columns as $j => $column) {
                foreach ($column as $i => $v) {
                    $columns[$j][$i] = $v * $roots[$i];
                }
            }
        }
        $progress?->report(0.2);
        $qr = Qr::solve($columns, $y);
        $progress?->report(0.9);
        $names = array_map(static fn (int $j): string => $matrix->names[$j], $qr->kept);
        $figures = LinearFigures::of($columns, $qr, $y, $roots, $task->weights, \count($task->rows), \count($rows));
        foreach ([...$qr->solution, $figures->rss, $figures->tss, ...$figures->sumsOfSquares] as $v) {
            if (!is_finite($v)) {
                throw new CannotFit('The numbers are too large: their squares are beyond what can be added up. Scale the columns first.');
            }
        }

        return new LinearModel(
            $coding,
            $names,
            $qr->solution,
            $qr->inverse(),
            array_map(static fn (int $j): string => $matrix->names[$j], $qr->dependent),
            $figures,
            $trace,
        );
    }
}
