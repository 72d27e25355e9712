<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Linear;

use Dokimos\Core\Math\Distribution\StudentT;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** All that is said about a least-squares fit, with the names of the reference. Formulas: docs/methods/linear-regression.md. */
final class LinearReport
{
    private const FIRST = 10;
    /** Cook's distance of every row is asked for up to so many. */
    private const EVERY = 200_000;

    /** @return array<string, mixed> figures by the names of the reference cases */
    public static function of(LinearModel $model, Task $task): array
    {
        $columns = $model->byColumn();
        $rows = $model->coding->complete($task->table, $task->usable());
        $out = $model->figures->toArray() + [
            'coefficients' => $model->coefficients(),
            'vif' => $model->inflation(),
            'gvif' => array_map(static fn (array $c): array => ['term' => $c['term'], 'df' => $c['df'], 'gvif' => $c['gvif'], 'gvif_pow' => $c['gvif_pow']], $columns),
            'drop_one_term' => array_map(static fn (array $c): array => ['term' => $c['term'], 'df' => $c['df'], 'rss_without' => $c['rss_without'], 'f' => $c['f'], 'p' => $c['p']], $columns),
        ];
        if (null !== $model->penalty) {
            $slopes = array_combine(\array_slice($model->names, 1), \array_slice($model->estimates, 1));
            $out['penalized'] = ['objective' => $model->penalty->objective, 'nonzero' => \count(array_filter($slopes, static fn (float $b) => 0.0 !== $b)), 'intercept_original' => $model->estimates[0], 'coefficients_original' => $slopes, 'lambda' => $model->penalty->price, 'alpha' => $model->penalty->mix, 'path' => $model->path];
        }
        if (null === $model->penalty && null === $task->weights && $model->figures->freedom() > 1) {
            $out['diagnostics_first_10_used_rows'] = self::diagnostics($model, $task, \array_slice($rows, 0, self::FIRST));
            $out['max_cooks_distance'] = \count($rows) > self::EVERY ? null : self::farthest($model, $task, $rows);
        }

        return $out;
    }

    /**
     * Per training row; null where its leverage is 1.
     *
     * @param list<int> $rows
     *
     * @return list<array{data_row: int, fitted: float, residual: float, leverage: float, cooks_distance: ?float, standardised_residual: ?float, studentised_residual: ?float}>
     */
    public static function diagnostics(LinearModel $model, Task $task, array $rows): array
    {
        $fitted = $model->predict($task->table, $rows);
        $sigma = $model->figures->sigma() ?? 0.0;
        $p = $model->figures->parameters;
        $freedom = $model->figures->freedom();
        $out = [];
        foreach ($model->terms($task->table, $rows) as $i => $x) {
            $e = $task->outcome[$rows[$i]] - $fitted[$i];
            $h = $model->leverage($x);
            // A row that its own term fits exactly has leverage 1 and no residual to judge.
            $free = $sigma > 0.0 && $h < 1 - 1e-12;
            $r = $free ? $e / ($sigma * sqrt(1 - $h)) : null;
            $inside = null === $r ? 0.0 : $freedom - $r * $r;
            $out[] = ['data_row' => $rows[$i] + 1, 'fitted' => $fitted[$i], 'residual' => $e, 'leverage' => $h, 'cooks_distance' => $free ? $e * $e * $h / ($p * $sigma * $sigma * (1 - $h) ** 2) : null, 'standardised_residual' => $r, 'studentised_residual' => null === $r || $inside <= 0.0 ? null : $r * sqrt(($freedom - 1) / $inside)];
        }

        return $out;
    }

    /**
     * @param list<int> $rows
     *
     * @return ?array{data_row: int, value: float}
     */
    private static function farthest(LinearModel $model, Task $task, array $rows): ?array
    {
        $best = null;
        foreach (array_chunk($rows, 4096) as $part) {
            foreach (self::diagnostics($model, $task, $part) as $line) {
                if (null !== $line['cooks_distance'] && (null === $best || $line['cooks_distance'] > $best['value'])) {
                    $best = ['data_row' => $line['data_row'], 'value' => $line['cooks_distance']];
                }
            }
        }

        return $best;
    }

    /**
     * What new rows are expected to have: the interval of the mean, and of a single new row.
     *
     * @return list<array{row: int, fit: ?float, ci_low: ?float, ci_high: ?float, pi_low: ?float, pi_high: ?float}>
     */
    public static function predictions(LinearModel $model, Table $new): array
    {
        $sigma = $model->sigma();
        $reach = null === $sigma ? null : (new StudentT($model->figures->freedom()))->quantile(0.975);
        $all = $new->rows > 0 ? range(0, $new->rows - 1) : [];
        $complete = $model->coding->complete($new, $all);
        $terms = array_combine($complete, $model->terms($new, $complete));
        $out = [];
        foreach ($model->predict($new) as $row => $fit) {
            if (!isset($terms[$row]) || null === $sigma || null === $reach) {
                $out[] = ['row' => $row + 1, 'fit' => is_nan($fit) ? null : $fit, 'ci_low' => null, 'ci_high' => null, 'pi_low' => null, 'pi_high' => null];
                continue;
            }
            $q = $model->leverage($terms[$row]);
            $mean = $reach * $sigma * sqrt($q);
            $single = $reach * $sigma * sqrt(1 + $q);
            $out[] = ['row' => $row + 1, 'fit' => $fit, 'ci_low' => $fit - $mean, 'ci_high' => $fit + $mean, 'pi_low' => $fit - $single, 'pi_high' => $fit + $single];
        }

        return $out;
    }
}
