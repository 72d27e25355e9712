<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\Learners;
use Dokimos\Core\Learn\Task;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\TextColumn;
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
        foreach (['target' => 'The column to predict', 'event' => 'The class that counts as the event (1 or yes when left out)', 'learner' => 'Name of the learner; logistic, or linear for a number, when left out', 'task' => 'event, classes or number; guessed from the target when left out', 'best-subsets' => 'Least squares on all subsets: so many of each size', 'inputs' => 'Columns to use, comma-separated', 'without' => 'Columns to leave out', 'weight' => 'Column of case weights', 'preparation' => 'JSON file of steps', 'rows' => 'File of row numbers to learn from, one a line', 'new' => 'File of new rows to predict', 'out' => 'Where to write the model'] as $name => $text) {
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
        $inputs = [] !== $options->list('inputs') ? $options->list('inputs') : array_values(array_filter($table->names(), static fn (string $n) => $n !== $target && $n !== $weight && !\in_array($n, $options->list('without'), true) && !$table->column($n) instanceof TextColumn));
        foreach ([$target, ...$inputs] as $name) {
            if (!$table->has($name)) {
                throw new \InvalidArgumentException(\sprintf('There is no column "%s" in the file.', $name));
            }
        }
        $outcome = Outcome::of($table, $target, $options->text('task'), $options->text('event'), $options->text('learner'));
        $raw = $table->without(array_values(array_diff($table->names(), $inputs)));
        $rows = null === $options->text('rows') ? range(0, $table->rows - 1) : array_map(static fn (string $l) => (int) $l - 1, file($options->required('rows'), \FILE_IGNORE_NEW_LINES | \FILE_SKIP_EMPTY_LINES) ?: []);
        $fitted = $this->preparation($options)->fit($raw, $rows, $outcome->isEvent() ? $outcome->values : null);
        $prepared = $fitted->learned->table ?? $raw;
        $task = new Task($prepared, array_values(array_filter($prepared->names(), static fn (string $n) => !$prepared->column($n) instanceof TextColumn)), $outcome->values, $fitted->rows, $weights, $outcome->classes);
        if (null !== $options->text('best-subsets')) {
            return FitReport::subsets($task, max(1, (int) $options->required('best-subsets')));
        }
        $model = Learners::make($options->text('learner') ?? $outcome->usualLearner(), $options->pairs('set'))->fit($task);
        $usable = $task->usable();
        $scoring = ScoringModel::trained($target, $outcome->event, $raw, $fitted, $model, array_sum(array_map(static fn (int $r) => $outcome->values[$r], $usable)) / max(1, \count($usable)), $task->kind());
        if (null !== $out = $options->text('out')) {
            file_put_contents($out, json_encode($scoring->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));
        }

        return FitReport::of($model, $task, $options, $scoring) + ['notes' => $model->notes()];
    }

    private function preparation(Options $options): Preparation
    {
        if (null === $file = $options->text('preparation')) {
            return new Preparation([]);
        }
        $data = json_decode((string) @file_get_contents($file), true);
        if (!\is_array($data)) {
            throw new \InvalidArgumentException(\sprintf('%s is not a preparation in JSON.', $file));
        }
        /** @var list<array<string, mixed>> $steps */
        $steps = \is_array($data['steps'] ?? null) ? $data['steps'] : $data;

        return Preparation::fromArray($steps);
    }
}
