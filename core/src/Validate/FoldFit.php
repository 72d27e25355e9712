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
use Dokimos\Core\Progress;
use Dokimos\Core\Table\Rows;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;

/** One learner fitted on a prepared fold. What it answers is asked for as it is needed: importance only of what is kept. */
final readonly class FoldFit
{
    /** Rows that each column is shuffled among, at most. */
    private const SHUFFLED = 4000;
    /** Folds within the training rows, where chances have to be brought back. */
    private const INNER = 10;

    private function __construct(public PreparedFold $fold, public Model $model, public ?BroughtBack $back)
    {
    }

    /** @throws CannotFit when there is nothing to learn */
    public static function of(PreparedFold $fold, Learner $learner, ?Progress $progress = null): self
    {
        $model = $learner->fit($fold->task, $progress);

        return new self(
            $fold,
            $model,
            null === $fold->data->classes || !Balance::isOn($learner->settings()) ? null : self::back($fold, $learner, $model),
        );
    }

    /** Answers for the validation rows, in their order. */
    public function answers(): Answers
    {
        return $this->on($this->fold->validation);
    }

    /** Answers for the rows that it learned from, in the order of FittedPreparation::$rows. */
    public function onTraining(): Answers
    {
        return $this->on($this->fold->fitted->rows);
    }

    /** @param list<int> $rows of the table */
    private function on(array $rows): Answers
    {
        $learned = $this->fold->fitted->learned;
        \assert(null !== $learned);

        return $this->moved(ScoringModel::answersOf($this->model, $learned, $rows, $this->fold->data->width()));
    }

    private function moved(Answers $answers): Answers
    {
        return $this->back?->of($answers) ?? $answers;
    }

    /** @return array<array-key, float> by column of the raw table, what the figure loses on the validation rows when the column is shuffled */
    public function lost(Figure $figure, ?Progress $progress = null): array
    {
        return $this->lostBy($figure, $this->alone(), 1, $progress);
    }

    /** @return array<array-key, non-empty-list<string>> each column of the raw table that the model asks for, by its name */
    public function alone(): array
    {
        $asked = array_values(array_intersect($this->fold->data->table->names(), $this->fold->fitted->asks($this->model->columns())));

        return array_map(static fn (string $c): array => [$c], array_combine($asked, $asked));
    }

    /**
     * What a figure loses on the validation rows when columns are shuffled together, over several shuffles.
     *
     * @param array<array-key, non-empty-list<string>> $groups  columns of the raw table
     * @param int<1, max>                              $repeats
     *
     * @return array<array-key, float> by the name of the group
     */
    public function lostBy(Figure $figure, array $groups, int $repeats, ?Progress $progress = null): array
    {
        $data = $this->fold->data;
        $fitted = $this->fold->fitted;
        $validation = $this->fold->validation;
        if (\count($validation) > self::SHUFFLED) {
            $step = \count($validation) / self::SHUFFLED;
            $validation = array_map(static fn (int $i): int => $validation[(int) ($i * $step)], range(0, self::SHUFFLED - 1));
        }
        $outcome = TrialData::at($data->outcome, $validation);
        $weights = null === $data->weights ? null : TrialData::at($data->weights, $validation);
        $differences = PermutationImportance::ofGroups(
            fn (Table $rows): Answers => $this->moved(ScoringModel::answersOf($this->model, $fitted->apply($rows), null, $data->width())),
            static fn (Answers $answers): ?float => $figure->value($outcome, $answers, $weights),
            $data->table->take($validation),
            $groups,
            $repeats,
            2026,
            $progress,
        );

        return array_map(static fn (array $d): float => ($figure->more ? -1.0 : 1.0) * array_sum($d) / \count($d), $differences);
    }

    /** Where rare classes were made to count more: what brings chances back, learned from out-of-fold answers of the same rows. */
    private static function back(PreparedFold $fold, Learner $learner, Model $whole): ?BroughtBack
    {
        $data = $fold->data;
        $training = $fold->training;
        $width = $data->width();
        $random = SplitPlan::random(2026, 'brought back');
        $plan = new SplitPlan(0.0, self::INNER, 1, 2026);
        $parts = null !== $data->apart ? $data->apart->parts($training, self::INNER, $random) : $plan->parts($data->outcome, $training, 0);
        $outcome = $answers = $weights = $rows = $known = [];
        foreach ($parts as $held) {
            $rest = Rows::without($training, $held);
            if ([] === $held || [] === $rest) {
                continue;
            }
            try {
                $inner = $data->prepared($rest);
                $model = $learner->fit($inner->task);
            } catch (CannotFit) {
                continue;
            }
            $learned = $inner->fitted->learned;
            \assert(null !== $learned);
            array_push($answers, ...ScoringModel::answersOf($model, $learned, $held, $width)->values);
            if (1 === $width) {
                array_push($known, ...ScoringModel::answersOf($model, $learned, self::withoutEvent($data, $rest))->values);
            }
            foreach ($held as $row) {
                $rows[] = $row;
                $outcome[] = $data->outcome[$row];
                $weights[] = $data->weights[$row] ?? 1.0;
            }
        }
        $weights = null === $data->weights ? null : $weights;
        $answers = new Answers($answers, $width);
        $back = BroughtBack::fit($outcome, $answers, $weights);
        $all = $fold->fitted->learned;

        return null === $all ? $back : $back?->anchored(
            $outcome,
            $answers,
            ScoringModel::answersOf($whole, $all, $rows, $width),
            $known,
            $weights,
        );
    }

    /**
     * Some of the rows without the event, evenly spread.
     *
     * @param list<int> $rows
     *
     * @return list<int>
     */
    private static function withoutEvent(TrialData $data, array $rows): array
    {
        $rows = array_values(array_filter($rows, static fn (int $row): bool => $data->outcome[$row] < 0.5));
        $step = max(1, intdiv(\count($rows), self::SHUFFLED));

        return array_map(static fn (int $i): int => $rows[$i], [] === $rows ? [] : range(0, \count($rows) - 1, $step));
    }
}
