<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Learn\Boosting\BoostedModel;
use Dokimos\Core\Learn\Forest\ForestModel;
use Dokimos\Core\Learn\Linear\LinearModel;
use Dokimos\Core\Learn\Linear\LinearReport;
use Dokimos\Core\Learn\Logistic\Coefficient;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Learn\Logistic\MultinomialModel;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\Selection\BestSubsets;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Math\Distribution\ChiSquare;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** What the command line says of a fit, named as in the reference. */
final class FitReport
{
    /** @return array<string, mixed> */
    public static function of(Model $model, Task $task, Options $options, ScoringModel $scoring): array
    {
        $new = null === $options->text('new') ? null : $scoring->preparation->apply($scoring->select((new CsvFile($options->required('new')))->read()[0], $scoring->byName()))->table;

        return match (true) {
            $model instanceof LogisticModel => self::logistic($model, $task, $options, $new) + self::chosen($model, $options),
            $model instanceof LinearModel => LinearReport::of($model, $task) + (null === $new ? [] : ['predictions_new' => LinearReport::predictions($model, $new)]) + ([] === $model->trace ? [] : ['selection' => ['final' => $model->columns(), 'trace' => $model->trace]]),
            $model instanceof MultinomialModel => $model->report() + ([] === $model->trace ? [] : ['selection' => ['final' => $model->columns(), 'trace' => $model->trace]]) + (null === $new ? [] : ['predictions_new' => $model->predictions($new)]),
            $model instanceof TreeModel => TreeReport::of($model, $task->classes, (string) ($options->pairs('set')['criterion'] ?? 'Gini')),
            $model instanceof ForestModel, $model instanceof BoostedModel => ['trees' => $model->trees(), 'importance' => $model->importance, 'curve' => $model->curve],
            default => ['chance' => $scoring->baseRate],
        };
    }

    /** @return array<string, mixed> */
    public static function subsets(Task $task, int $keep): array
    {
        $rows = array_values(array_filter($task->usable(), static fn (int $r) => [] === array_filter($task->inputs, static fn (string $c) => $task->table->column($c)->isMissing($r))));
        $of = static fn (array $values): array => array_map(static fn (int $r): float => $values[$r], $rows);

        return ['rows_used' => \count($rows)] + BestSubsets::of(array_map(static fn (string $c): array => $of($task->table->number($c)->values), $task->inputs), $task->inputs, $of($task->outcome), $keep);
    }

    /** @return array<string, mixed> the choice of columns, or the penalty */
    private static function chosen(LogisticModel $model, Options $options): array
    {
        $byName = [];
        foreach ($model->coefficients as $c) {
            $byName[$c->name] = $c->estimate;
        }
        $set = $options->pairs('set');
        $out = [];
        if ([] !== $model->trace) {
            $byP = 'p-value' === ($set['by'] ?? 'AIC');
            $method = $set['selection'] ?? '';
            $out['selection'] = ['method' => $byP || 'stepwise' !== $method ? $method : 'both', 'enter' => !$byP || 'backward' === $method ? null : (float) ($set['enter'] ?? 0.05), 'remove' => !$byP || 'forward' === $method ? null : (float) ($set['stay'] ?? 0.1), 'final' => $model->columns(), 'log_likelihood' => $model->figures->logLikelihood, 'aic' => $model->figures->toArray()['aic'], 'coefficients' => $byName, 'trace' => $model->trace];
        }
        if (null !== $model->penalty) {
            $slopes = \array_slice($byName, 1, null, true);
            $out['penalized'] = ['objective' => $model->penalty->objective, 'log_likelihood' => $model->figures->logLikelihood, 'nonzero' => \count(array_filter($slopes, static fn (float $b) => 0.0 !== $b)), 'intercept_original' => $byName['(intercept)'], 'coefficients_original' => $slopes, 'lambda' => $model->penalty->price, 'alpha' => $model->penalty->mix];
        }

        return $out;
    }

    /** @return array<string, mixed> */
    private static function logistic(LogisticModel $model, Task $task, Options $options, ?Table $new): array
    {
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
        if (null !== $new) {
            $predictions = [];
            foreach ($model->linearPredictor($new) as $row => $eta) {
                $x = array_map(static fn (array $c) => $c[0], $model->matrix($new, [$row])->block(0));
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
