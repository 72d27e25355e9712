<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Linear;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Design\Reading;
use Dokimos\Core\Design\Standardized;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\Penalty;
use Dokimos\Core\Learn\Readings;
use Dokimos\Core\Learn\Room;
use Dokimos\Core\Learn\Selection\Candidate;
use Dokimos\Core\Learn\Selection\Choice;
use Dokimos\Core\Math\Qr;
use Dokimos\Core\Progress;
use Dokimos\Core\Setting;
use Dokimos\Core\Silent;
use Dokimos\Core\Task\Task;

/** Least squares, plain or with a price on the coefficients; formulas and sources: docs/methods/linear-regression.md. */
final readonly class LinearRegression implements Learner
{
    /** Rows that are brought to a triangle at once, where there are many. */
    private const PART = 16384;

    /** @var array<string, string|float|int|bool> */
    private array $settings;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        $this->settings = GivenSettings::of(self::described()->title, self::described()->settings, $given);
        $this->reading();
    }

    public static function card(): Card
    {
        return new Card(
            6,
            LinearModel::class,
            100,
            0,
            20,
            searched: [
                'penalty' => ['list' => ['ridge', 'lasso']],
                'price' => ['from' => 0.3, 'to' => 100, 'by' => 'factors'],
                'missing' => 'fill and mark',
            ],
            straight: ['penalty' => 'ridge', 'price' => 1.0, 'missing' => 'fill and mark'],
        );
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner('linear', 'Linear regression', 'Adds up one effect per column. Readable term by term, quick, and hard to beat when effects are steady.', [Task::NUMBER], [
            ...Penalty::settings(),
            new Setting(
                'find',
                'Find lambda on held rows',
                Setting::YES,
                false,
                'Instead of a given lambda: 60 of them, each judged on fifths of the training rows that did not fit it; the one with least error is taken.',
                when: ['penalty' => [Penalty::RIDGE, Penalty::LASSO, Penalty::BOTH]],
            ),
            ...Readings::settings(),
            ...Choice::settings(),
        ], quick: true);
    }

    public function settings(): array
    {
        return $this->settings;
    }

    private function reading(): Reading
    {
        return Readings::of($this->settings);
    }

    public function fit(Task $task, ?Progress $progress = null): LinearModel
    {
        Readings::demand($this->reading(), $task);
        if (Choice::isAll($this->settings)) {
            return $this->fitted($task, [], $progress);
        }
        $usable = $task->usable();
        $all = $task->coding($usable, $this->reading());
        // The same rows for every candidate, or their sums of squares could not be compared.
        $rows = $all->complete($task->table, $usable);
        $chosen = Choice::of($this->settings, $all, $task, $rows, function (array $columns, array $rows) use ($task): array {
            $model = $this->fitted($task->on($rows, $columns), []);

            return [
                $model,
                new Candidate($model->figures->logLikelihood, $model->figures->parameters, $model->figures->rowsUsed, $model->figures->rss),
            ];
        }, $progress ?? new Silent());

        return $this->fitted($task->on($rows, [...$chosen['final'], ...$all->unused()]), $chosen['trace'], $progress);
    }

    /** @param list<array<string, mixed>> $trace */
    private function fitted(Task $task, array $trace, ?Progress $progress = null): LinearModel
    {
        $usable = $task->usable();
        $coding = $task->coding($usable, $this->reading());
        $rows = $coding->complete($task->table, $usable);
        if ([] === $rows) {
            throw new CannotFit('No training row has a value in every column used. Fill or set aside the columns with missing values first.');
        }
        Room::demand(\count($rows), \count($coding->terms) + 1, Matrix::isLarge(\count($rows), \count($coding->terms) + 1) ? 1 : 4);
        $matrix = $coding->matrix($task->table, $rows, true);
        if (null !== $penalty = Penalty::of($this->settings)) {
            return $this->heldBack($penalty, $task, $coding, $matrix, $rows, $trace);
        }
        $y = $roots = [];
        foreach ($rows as $row) {
            $root = sqrt($task->weights[$row] ?? 1.0);
            $roots[] = $root;
            $y[] = $root * $task->outcome[$row];
        }
        $column = static function (int $j) use ($matrix, $roots): array {
            $out = [];
            foreach ($matrix->column($j) as $part) {
                foreach ($part as $v) {
                    $out[] = $v * $roots[\count($out)];
                }
            }

            return $out;
        };
        $progress?->report(0.2);
        $width = \count($matrix->names);
        $qr = Matrix::isLarge(\count($rows), $width) ? Qr::inParts(self::parts($matrix, $y, $roots), $width) : Qr::solve(
            array_map($column, range(0, $width - 1)),
            $y,
        );
        $progress?->report(0.9);
        $names = array_map(static fn (int $j): string => $matrix->names[$j], $qr->kept);
        $figures = LinearFigures::of($column, $qr, $y, $roots, $task->weights, \count($task->rows), \count($rows));
        foreach ([...$qr->solution, $figures->rss, $figures->tss, ...$figures->sumsOfSquares] as $v) {
            if (!is_finite($v)) {
                throw self::tooLarge($matrix);
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
            null,
            [],
            self::means($column, $qr->kept, $roots),
        );
    }

    /**
     * @param list<int>                  $rows
     * @param list<array<string, mixed>> $trace
     */
    private function heldBack(Penalty $penalty, Task $task, Coding $coding, Matrix $raw, array $rows, array $trace): LinearModel
    {
        $y = $weights = [];
        $weightSum = 0.0;
        foreach (array_chunk($rows, Matrix::BLOCK) as $chunk) {
            $ys = $ws = [];
            foreach ($chunk as $row) {
                $ys[] = $task->outcome[$row];
                $ws[] = $w = $task->weights[$row] ?? 1.0;
                $weightSum += $w;
            }
            $y[] = $ys;
            $weights[] = $ws;
        }
        [$scaled, $means, $spreads] = Standardized::of($raw, $weights, $weightSum, Penalty::scales($this->settings));
        $search = new HeldBack($scaled, $y, $weights);
        $path = true === $this->settings['find'] ? $search->path($penalty->mix) : [];
        $best = null;
        foreach ($path as $place) {
            if (null === $best || $place['error'] < $best['error']) {
                $best = $place;
            }
        }
        if (null !== $best) {
            $penalty = new Penalty($penalty->kind, $best['price'], $penalty->mix);
        }
        $fit = $search->at($penalty);
        $estimates = [$fit['beta'][0]];
        for ($j = 1, $width = \count($spreads); $j < $width; ++$j) {
            $estimates[$j] = $fit['beta'][$j] / $spreads[$j];
            $estimates[0] -= $estimates[$j] * $means[$j];
        }
        foreach ([...$estimates, $fit['rss']] as $v) {
            if (!is_finite($v)) {
                throw self::tooLarge($raw);
            }
        }
        $kept = \count(array_filter($fit['beta'], static fn (float $b) => 0.0 !== $b));

        return new LinearModel(
            $coding,
            $raw->names,
            array_values($estimates),
            [],
            [],
            LinearFigures::plain($y, $weights, $fit['rss'], $kept, \count($task->rows)),
            $trace,
            $penalty->reaching($fit['objective']),
            $path,
            [1.0, ...\array_slice($means, 1)],
        );
    }

    /**
     * Some thousand rows at a time.
     *
     * @param list<float> $y     times the roots
     * @param list<float> $roots of the weights
     *
     * @return \Generator<int, list<list<float>>> columns times the roots, y last
     */
    private static function parts(Matrix $matrix, array $y, array $roots): \Generator
    {
        $part = [];
        $from = $rows = 0;
        foreach ($matrix->blocks() as $b => $block) {
            $height = \count($block[0]);
            foreach ($block as $j => $column) {
                foreach ($column as $r => $v) {
                    $part[$j][] = $v * $roots[$from + $rows + $r];
                }
            }
            $rows += $height;
            if ($rows >= self::PART || $b === $matrix->count() - 1) {
                yield [...array_values($part), \array_slice($y, $from, $rows)];
                $from += $rows;
                $rows = 0;
                $part = [];
            }
        }
    }

    /**
     * @param \Closure(int): list<float> $column of the design, each row times the root of its weight
     * @param list<int>                  $kept
     * @param list<float>                $roots
     *
     * @return list<float> weighted means of the terms kept
     */
    private static function means(\Closure $column, array $kept, array $roots): array
    {
        $all = array_sum(array_map(static fn (float $r): float => $r * $r, $roots));

        return array_map(static function (int $j) use ($column, $roots, $all): float {
            $sum = 0.0;
            foreach ($column($j) as $i => $v) {
                $sum += $v * $roots[$i];
            }

            return $sum / $all;
        }, $kept);
    }

    private static function tooLarge(Matrix $matrix): CannotFit
    {
        $large = [];
        foreach ($matrix->blocks() as $block) {
            foreach ($block as $j => $values) {
                if ([] !== $values && max(max($values), -min($values)) > 1e140) {
                    $large[$matrix->names[$j]] = true;
                }
            }
        }

        return new CannotFit(\sprintf(
            'The numbers%s are too large: their squares are beyond what can be added up. Scale or set aside such columns first.',
            [] === $large ? '' : ' of '.implode(', ', array_keys($large)),
        ));
    }
}
