<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Decide\BroughtBack;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\PermutationImportance;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Learn\Balance;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Prepare\FittedPreparation;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Prepare\Prepared;
use Dokimos\Core\Progress;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Apart;
use Dokimos\Core\Task\Task;

/**
 * One trial on the rows that are not sealed: each fold fits the preparation and the learner on its training rows only and predicts
 * its validation rows; at the end both are fitted once more on all rows.
 */
final readonly class Trying
{
    /** Rows that each column is shuffled among, at most. */
    private const SHUFFLED = 4000;
    /** Folds within the training rows, where chances have to be brought back. */
    private const INNER = 10;

    /**
     * @param Table         $table   the unsealed rows, before preparation, with the columns the trial may use
     * @param list<string>  $inputs  columns of the raw table that may serve; made columns come along
     * @param list<float>   $outcome per row of the table: a number, or the place of the class; NAN = unknown
     * @param ?list<string> $classes null when a number is predicted
     * @param ?list<float>  $weights per row of the table: how much it counts while learning and in the figure; those of 0 not at all
     * @param ?Apart        $apart   which rows belong together when a learner keeps some back
     */
    public function __construct(private Table $table, private array $inputs, private array $outcome, private Preparation $preparation, private Learner $learner, private ?array $classes = ['no', 'yes'], private ?array $weights = null, private ?Apart $apart = null)
    {
    }

    /**
     * @param list<int>  $validation rows of the table
     * @param ?list<int> $training   null = all others
     * @param ?Figure    $figure     what shuffling each column is to be weighed by; null = it is not
     *
     * @return array{answers: Answers, training: Answers, trainingRows: list<int>, lost: array<array-key, float>} answers for the validation rows, in their order, and for the training rows; lost: by column of the raw table, what the figure loses on the validation rows when the column is shuffled
     */
    public function fold(array $validation, ?array $training = null, ?Progress $progress = null, ?Figure $figure = null): array
    {
        $held = array_fill_keys($validation, true);
        $known = [];
        foreach ($training ?? array_keys($this->outcome) as $row) {
            if (!isset($held[$row]) && !is_nan($this->outcome[$row])) {
                $known[] = $row;
            }
        }
        [$fitted, $model] = $this->learn($known, $progress);
        $learned = $fitted->learned;
        \assert(null !== $learned);
        $back = $this->back($known, $learned, $model);
        $said = fn (array $rows): Answers => $this->moved($back, ScoringModel::answersOf($model, $learned, array_values(array_filter($rows, is_int(...))), $this->width()));

        return ['answers' => $said($validation), 'training' => $said($fitted->rows), 'trainingRows' => $fitted->rows, 'lost' => null === $figure ? [] : $this->lost($fitted, $model, $validation, $figure, $back)];
    }

    /**
     * @param list<int> $validation
     *
     * @return array<array-key, float>
     */
    private function lost(FittedPreparation $fitted, Model $model, array $validation, Figure $figure, ?BroughtBack $back): array
    {
        if (\count($validation) > self::SHUFFLED) {
            $step = \count($validation) / self::SHUFFLED;
            $validation = array_map(static fn (int $i): int => $validation[(int) ($i * $step)], range(0, self::SHUFFLED - 1));
        }
        $outcome = array_map(fn (int $row): float => $this->outcome[$row], $validation);
        $weights = null === $this->weights ? null : array_map(fn (int $row): float => $this->weights[$row], $validation);
        $differences = PermutationImportance::of(
            fn (Table $rows): Answers => $this->moved($back, ScoringModel::answersOf($model, $fitted->apply($rows), null, $this->width())),
            static fn (Answers $answers): ?float => $figure->value($outcome, $answers, $weights),
            $this->table->take($validation),
            array_values(array_intersect($this->table->names(), $fitted->asks($model->columns()))),
            1,
            2026,
        );

        return array_map(static fn (array $d): float => $figure->more ? -$d[0] : $d[0], $differences);
    }

    private function width(): int
    {
        return Answers::widthOf($this->classes);
    }

    public function whole(string $target, string $eventName, ?Progress $progress = null): ScoringModel
    {
        $training = array_keys(array_filter($this->outcome, static fn (float $e) => !is_nan($e)));
        if ([] === $training) {
            throw new CannotFit('No row has a known outcome.');
        }
        [$fitted, $model] = $this->learn($training, $progress);
        $sum = $all = 0.0;
        foreach ($training as $row) {
            $sum += ($this->weights[$row] ?? 1.0) * $this->outcome[$row];
            $all += $this->weights[$row] ?? 1.0;
        }

        return ScoringModel::trained($target, $eventName, $this->table, $fitted, $model, $sum / $all, (new Task($this->table, [], $this->outcome, [], null, $this->classes))->kind(), $this->back($training, $fitted->learned, $model));
    }

    private function moved(?BroughtBack $back, Answers $answers): Answers
    {
        return null === $back ? $answers : $back->of($answers);
    }

    /**
     * Where rare classes were made to count more: what brings chances back, learned from out-of-fold answers of the same rows.
     *
     * @param list<int> $training
     */
    private function back(array $training, ?Prepared $all, Model $whole): ?BroughtBack
    {
        if (null === $this->classes || !Balance::isOn($this->learner->settings())) {
            return null;
        }
        $random = SplitPlan::random(2026, 'brought back');
        $plan = new SplitPlan(0.0, self::INNER, 1, 2026);
        $parts = null !== $this->apart ? $this->apart->parts($training, self::INNER, $random) : $plan->parts($this->outcome, $training, 0);
        $outcome = $answers = $weights = $rows = $known = [];
        foreach ($parts as $held) {
            $rest = array_values(array_diff($training, $held));
            if ([] === $held || [] === $rest) {
                continue;
            }
            try {
                [$fitted, $model] = $this->learn($rest, null);
            } catch (CannotFit) {
                continue;
            }
            $learned = $fitted->learned;
            \assert(null !== $learned);
            array_push($answers, ...ScoringModel::answersOf($model, $learned, $held, $this->width())->values);
            if (1 === $this->width()) {
                array_push($known, ...ScoringModel::answersOf($model, $learned, $this->withoutEvent($rest))->values);
            }
            foreach ($held as $row) {
                $rows[] = $row;
                $outcome[] = $this->outcome[$row];
                $weights[] = $this->weights[$row] ?? 1.0;
            }
        }

        $weights = null === $this->weights ? null : $weights;
        $answers = new Answers($answers, $this->width());
        $back = BroughtBack::fit($outcome, $answers, $weights);

        return null === $all ? $back : $back?->anchored($outcome, $answers, ScoringModel::answersOf($whole, $all, $rows, $this->width()), $known, $weights);
    }

    /**
     * Some of the rows without the event, evenly spread.
     *
     * @param list<int> $rows
     *
     * @return list<int>
     */
    private function withoutEvent(array $rows): array
    {
        $rows = array_values(array_filter($rows, fn (int $row): bool => $this->outcome[$row] < 0.5));
        $step = max(1, intdiv(\count($rows), self::SHUFFLED));

        return array_map(static fn (int $i): int => $rows[$i], [] === $rows ? [] : range(0, \count($rows) - 1, $step));
    }

    /** What the learner is given when it learns from every row whose outcome is known. */
    public function task(): Task
    {
        return $this->given($this->prepared(array_keys(array_filter($this->outcome, static fn (float $e) => !is_nan($e)))));
    }

    /** @param list<int> $training */
    private function prepared(array $training): FittedPreparation
    {
        $fitted = $this->preparation->fit($this->table, $training, null !== $this->classes && 2 === \count($this->classes) ? $this->outcome : null);

        return [] === $fitted->rows ? throw new CannotFit('The steps of the preparation leave no row to learn from.') : $fitted;
    }

    private function given(FittedPreparation $fitted): Task
    {
        $table = $fitted->learned->table ?? $this->table;

        return new Task($table, $this->usable($table, $fitted), $this->outcome, $fitted->rows, $this->weights, $this->classes, $this->apart);
    }

    /**
     * @param list<int> $training
     *
     * @return array{FittedPreparation, Model}
     */
    private function learn(array $training, ?Progress $progress): array
    {
        $fitted = $this->prepared($training);

        return [$fitted, $this->learner->fit($this->given($fitted), $progress)];
    }

    /**
     * The inputs that preparation left, and the columns it made of them. What is made of a key alone, such as a renamed one, is a key still.
     *
     * @return list<string>
     */
    private function usable(Table $prepared, FittedPreparation $fitted): array
    {
        $always = $fitted->asks([]);

        return array_values(array_filter($prepared->names(), function (string $name) use ($fitted, $always): bool {
            if ($this->table->has($name)) {
                return \in_array($name, $this->inputs, true);
            }
            $made = array_diff($fitted->asks([$name]), $always);

            return [] === $made || [] !== array_intersect($made, $this->inputs);
        }));
    }
}
