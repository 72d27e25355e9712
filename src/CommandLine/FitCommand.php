<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Learn\Learners;
use Dokimos\Core\Learn\Logistic\Coefficient;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Learn\Task;
use Dokimos\Core\Math\Distribution\ChiSquare;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\Table;
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
        foreach (['target' => 'The column to predict', 'event' => 'The class that counts as the event (1 or yes when left out)', 'learner' => 'logistic or baseline', 'inputs' => 'Columns to use, comma-separated', 'without' => 'Columns to leave out', 'weight' => 'Column of case weights', 'preparation' => 'JSON file of steps', 'rows' => 'File of row numbers to learn from, one a line', 'new' => 'File of new rows to predict', 'out' => 'Where to write the model'] as $name => $text) {
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
        [$event, $name] = self::event($table, $target, $options->text('event'));
        $raw = $table->without(array_values(array_diff($table->names(), $inputs)));
        $rows = null === $options->text('rows') ? range(0, $table->rows - 1) : array_map(static fn (string $l) => (int) $l - 1, file($options->required('rows'), \FILE_IGNORE_NEW_LINES | \FILE_SKIP_EMPTY_LINES) ?: []);
        $fitted = $this->preparation($options)->fit($raw, $rows, $event);
        $prepared = $fitted->learned->table ?? $raw;
        $task = new Task($prepared, array_values(array_filter($prepared->names(), static fn (string $n) => !$prepared->column($n) instanceof TextColumn)), $event, $fitted->rows, $weights);
        $model = Learners::make($options->text('learner') ?? 'logistic', $options->pairs('set'))->fit($task);
        $usable = $task->usable();
        $scoring = ScoringModel::trained($target, $name, $raw, $fitted, $model, array_sum(array_map(static fn (int $r) => $event[$r], $usable)) / max(1, \count($usable)));
        if (null !== $out = $options->text('out')) {
            file_put_contents($out, json_encode($scoring->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));
        }

        return self::report($model instanceof LogisticModel ? $model : null, $task, $options, $scoring) + ['notes' => $model->notes()];
    }

    /** @return array{list<float>, string} */
    private static function event(Table $table, string $target, ?string $event): array
    {
        $column = $table->column($target);
        $out = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $text = $column->text($row);
            $out[] = null === $text ? \NAN : (null === $event ? (true === CellParser::yesNo($text) ? 1.0 : 0.0) : ($text === $event ? 1.0 : 0.0));
        }

        return [$out, $event ?? 'yes'];
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

    /** @return array<string, mixed> */
    private static function report(?LogisticModel $model, Task $task, Options $options, ScoringModel $scoring): array
    {
        if (null === $model) {
            return ['chance' => $scoring->baseRate];
        }
        $report = $model->figures->toArray();
        $report['weighted_positive_rate'] = null === $task->weights ? null : self::weightedRate($model, $task);
        $report['coefficients'] = array_map(static fn (Coefficient $c) => $c->toArray(), $model->coefficients);
        $report['separated'] = $model->separated;
        $report['ridge'] = $model->ridge;
        $used = $model->coding->complete($task->table, $task->usable());
        $report['fitted_first_10_used_rows'] = array_map(static fn (int $row, float $p) => ['data_row' => $row + 1, 'probability' => $p], \array_slice($used, 0, 10), $model->predict($task->table, \array_slice($used, 0, 10)));
        if ($options->is('drop-one')) {
            $report['drop_one_term'] = self::dropOne($model, $task);
        }
        if (null !== $options->text('new')) {
            $predictions = [];
            $new = (new CsvFile($options->required('new')))->read()[0];
            $selected = $scoring->preparation->apply($scoring->select($new, $scoring->byName()))->table;
            foreach ($model->linearPredictor($selected) as $row => $eta) {
                $x = array_map(static fn (array $c) => $c[0], $model->matrix($selected, [$row])->blocks[0]);
                $predictions[] = ['row' => $row + 1, 'linear_predictor' => $eta, 'se_linear_predictor' => $model->standardError($x), 'probability' => LogisticModel::chance($eta)];
            }
            $report['predictions_new'] = $predictions;
        }

        return $report;
    }

    private static function weightedRate(LogisticModel $model, Task $task): float
    {
        $sum = $hits = 0.0;
        foreach ($model->coding->complete($task->table, $task->usable()) as $row) {
            $w = $task->weights[$row] ?? 1.0;
            $sum += $w;
            $hits += $w * $task->outcome[$row];
        }

        return $hits / $sum;
    }

    /** @return list<array<string, mixed>> likelihood-ratio test of each input, on the rows of the full model */
    private static function dropOne(LogisticModel $full, Task $task): array
    {
        $rows = $full->coding->complete($task->table, $task->usable());
        $tests = [];
        foreach ($full->coding->columns as $column) {
            $without = (new LogisticRegression())->fit(new Task($task->table, array_values(array_diff($full->coding->columns, [$column])), $task->outcome, $rows, $task->weights));
            $chi2 = 2 * ($full->figures->logLikelihood - $without->figures->logLikelihood);
            $df = $full->figures->parameters - $without->figures->parameters;
            $tests[] = ['term' => $column, 'df' => $df, 'log_likelihood_without' => $without->figures->logLikelihood, 'lr_chi2' => $chi2, 'p' => (new ChiSquare($df))->upper(max(0.0, $chi2))];
        }

        return $tests;
    }
}
