<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Progress;
use Dokimos\Core\Stretch;
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
    /** Share of a fold that is told of fitting; the rest is asking about each column. */
    private const FITTED = 0.6;

    private TrialData $data;

    /**
     * @param Table         $table   the unsealed rows, before preparation, with the columns the trial may use
     * @param list<string>  $inputs  columns of the raw table that may serve; made columns come along
     * @param list<float>   $outcome per row of the table: a number, or the place of the class; NAN = unknown
     * @param ?list<string> $classes null when a number is predicted
     * @param ?list<float>  $weights per row of the table: how much it counts while learning and in the figure; those of 0 not at all
     * @param ?Apart        $apart   which rows belong together when a learner keeps some back
     * @param ?int          $part    learn from so many of the training rows at most; those judged on stay the same
     * @param ?ColumnChoice $choice  which prepared columns may serve; null = all
     */
    public function __construct(
        Table $table,
        array $inputs,
        array $outcome,
        Preparation $preparation,
        private Learner $learner,
        ?array $classes = ['no', 'yes'],
        ?array $weights = null,
        ?Apart $apart = null,
        private ?int $part = null,
        ?ColumnChoice $choice = null,
    ) {
        $this->data = new TrialData($table, $inputs, $outcome, $preparation, $classes, $weights, $apart, $choice);
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
        foreach ($training ?? array_keys($this->data->outcome) as $row) {
            if (!isset($held[$row]) && !is_nan($this->data->outcome[$row])) {
                $known[] = $row;
            }
        }
        // Learners that learn in no time answer slowly, and are asked about every column.
        $fitting = null === $progress || null === $figure ? $progress : new Stretch($progress, 0.0, self::FITTED);
        $fit = FoldFit::of($this->data->prepared($this->data->some($known, $this->part), $validation), $this->learner, $fitting);
        $answers = $fit->answers();
        $fitting?->report(1.0);

        return [
            'answers' => $answers,
            'training' => $fit->onTraining(),
            'trainingRows' => $fit->fold->fitted->rows,
            'lost' => null === $figure ? [] : $fit->lost($figure, null === $progress ? null : new Stretch($progress, self::FITTED, 1.0)),
        ];
    }

    /** @throws CannotFit when there is nothing to learn */
    public function whole(string $target, string $eventName, ?Progress $progress = null): ScoringModel
    {
        $data = $this->data;
        $training = $data->known();
        if ([] === $training) {
            throw new CannotFit('No row has a known outcome.');
        }
        $fit = FoldFit::of($data->prepared($data->some($training, $this->part)), $this->learner, $progress);
        $sum = $all = 0.0;
        foreach ($training as $row) {
            $sum += ($data->weights[$row] ?? 1.0) * $data->outcome[$row];
            $all += $data->weights[$row] ?? 1.0;
        }

        return ScoringModel::trained(
            $target,
            $eventName,
            $data->table,
            $fit->fold->fitted,
            $fit->model,
            $sum / $all,
            (new Task($data->table, [], $data->outcome, [], null, $data->classes))->kind(),
            $fit->back,
        );
    }

    public function data(): TrialData
    {
        return $this->data;
    }

    /** What the learner is given when it learns from every row whose outcome is known. */
    public function task(): Task
    {
        return $this->data->prepared($this->data->known())->task;
    }
}
