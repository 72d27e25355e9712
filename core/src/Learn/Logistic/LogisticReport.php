<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Learn\Reported;
use Dokimos\Core\Math\Distribution\ChiSquare;
use Dokimos\Core\Task\Task;

/** What a logistic regression says of its fit, named as in the reference. */
final class LogisticReport
{
    /** @return array<string, mixed> figures by the names of the reference cases */
    public static function of(LogisticModel $model, Task $task, Reported $wanted): array
    {
        return self::plain($model, $task, $wanted) + self::chosen($model, $wanted);
    }

    /** @return array<string, mixed> the choice of columns, or the penalty */
    private static function chosen(LogisticModel $model, Reported $wanted): array
    {
        $byName = [];
        foreach ($model->coefficients as $c) {
            $byName[$c->name] = $c->estimate;
        }
        /** @var array{by?: string, selection?: string, enter?: string|float|int, stay?: string|float|int} $set */
        $set = $wanted->settings;
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
    private static function plain(LogisticModel $model, Task $task, Reported $wanted): array
    {
        $report = $model->figures->toArray();
        $report['weighted_positive_rate'] = null === $task->weights ? null : self::weightedRate($model, $task);
        $report['coefficients'] = array_map(static fn (Coefficient $c) => $c->toArray(), $model->coefficients);
        $report['separated'] = $model->separated;
        $report['ridge'] = $model->ridge;
        $used = $model->coding->complete($task->table, $task->usable());
        $report['fitted_first_10_used_rows'] = array_map(static fn (int $row, float $p) => ['data_row' => $row + 1, 'probability' => $p], \array_slice($used, 0, 10), $model->predict($task->table, \array_slice($used, 0, 10)));
        if ($wanted->dropOne) {
            $report['drop_one_term'] = self::dropOne($model, $task);
        }
        if (null !== $wanted->new) {
            $predictions = [];
            foreach ($model->linearPredictor($wanted->new) as $row => $eta) {
                $x = array_map(static fn (array $c) => $c[0], $model->matrix($wanted->new, [$row])->block(0));
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
