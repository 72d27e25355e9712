<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Validate\Trying;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;

/** Fits a model on a file. */
#[AsCommand('dokimos:fit', 'Fit a model on all rows of a file')]
final class FitCommand extends CoreCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('file', InputArgument::REQUIRED);
        foreach ([
            'target' => 'The column to predict',
            'event' => 'The class that counts as the event (1 or yes when left out)',
            'learner' => 'Name of the learner; logistic, or linear for a number, when left out',
            'task' => 'event, classes or number; guessed from the target when left out',
            'best-subsets' => 'Least squares on all subsets: so many of each size',
            'inputs' => 'Columns to use, comma-separated',
            'without' => 'Columns to leave out',
            'weight' => 'Column of case weights',
            'preparation' => 'JSON file of steps',
            'rows' => 'File of row numbers to learn from, one a line',
            'new' => 'File of new rows to predict',
            'out' => 'Where to write the model',
            'unseen' => 'Where to write answers for rows that models of folds had not seen: how sure it is (dokimos:score --sure)',
            'folds' => 'Folds that these answers come from (5)',
        ] as $name => $text) {
            $this->addOption($name, null, InputOption::VALUE_REQUIRED, $text);
        }
        $this->addOption('kind', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'column=kind', [])
            ->addOption('set', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'setting=value', [])
            ->addOption('drop-one', null, InputOption::VALUE_NONE, 'Test each input by leaving it out');
    }

    protected function compute(Options $options): array
    {
        $table = $options->table('file');
        $target = $options->required('target');
        $weight = $options->text('weight');
        $weights = null === $weight ? null : Options::numbers($table, $weight);
        $inputs = $options->inputs($table, $target, $weight);
        $outcome = Outcome::of($table, $target, $options->text('task'), $options->text('event'), $options->text('learner'));
        $raw = Table::of(array_combine($inputs, array_map($table->column(...), $inputs)), $table->rows);
        $values = $outcome->values;
        $only = null;
        if (null !== $options->text('rows')) {
            $only = array_fill_keys(
                array_map(
                    static fn (string $l) => (int) $l - 1,
                    file($options->required('rows'), \FILE_IGNORE_NEW_LINES | \FILE_SKIP_EMPTY_LINES) ?: [],
                ),
                true,
            );
            $values = array_map(static fn (int $row, float $y): float => isset($only[$row]) ? $y : \NAN, array_keys($values), $values);
        }
        $learner = Learners::make($options->text('learner') ?? $outcome->usualLearner(), $options->pairs('set'));
        // The very way of the application: what it fits on all open rows.
        $trying = new Trying(
            $raw,
            $inputs,
            $values,
            Preparation::fromArray($options->steps()),
            $learner,
            $outcome->classes,
            $weights,
        );
        if (null !== $options->text('best-subsets')) {
            return FitReport::subsets($trying->task(), max(1, (int) $options->required('best-subsets')));
        }
        $scoring = $trying->whole($target, $outcome->event);
        $model = $scoring->model;
        $task = $trying->task();
        if (null !== $out = $options->text('out')) {
            file_put_contents($out, json_encode($scoring->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));
        }

        if (null !== $unseen = $options->text('unseen')) {
            $folds = (int) ($options->text('folds') ?? 5);
            if ($folds < 2 || $folds > 20) {
                throw new \InvalidArgumentException('Answers for unseen rows come from 2 to 20 folds.');
            }
            Unseen::of($trying->data(), $learner, $folds)->write($unseen);
        }

        $report = FitReport::of($scoring, $task, $options) + ['notes' => $model->notes()];

        // Rows whose outcome is not known teach nothing, and are of the file all the same.
        if (\is_int($report['rows_total'] ?? null)) {
            $all = null === $only ? $table->rows : \count($only);
            if (\is_int($report['rows_dropped'] ?? null)) {
                $report['rows_dropped'] += $all - $report['rows_total'];
            }
            $report['rows_total'] = $all;
        }

        return $report;
    }
}
