<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

use Dokimos\Core\Profile\Association;

/** Figures of predicted numbers; definitions: docs/methods/number-figures.md. */
final class NumberFigures
{
    /**
     * @param list<float>  $actual
     * @param list<float>  $predicted
     * @param ?list<float> $weights   for the weighted figures beside the plain ones
     *
     * @return array<string, mixed> null where a figure is not defined
     *
     * @throws \LengthException actual and predicted values need one entry per row
     */
    public static function of(array $actual, array $predicted, ?array $weights = null): array
    {
        $n = \count($actual);
        if (\count($predicted) !== $n || (null !== $weights && \count($weights) !== $n)) {
            throw new \LengthException('Actual and predicted values need one entry per row.');
        }
        if (0 === $n) {
            return ['n' => 0];
        }
        $errors = $sizes = [];
        $square = $absolute = $shares = $actualSizes = $logs = $bias = 0.0;
        $skipped = $negative = $below = 0;
        foreach ($actual as $i => $a) {
            $p = $predicted[$i];
            $errors[] = $e = $p - $a;
            $sizes[] = abs($e);
            $square += $e * $e;
            $absolute += abs($e);
            $bias += $e;
            $actualSizes += abs($a);
            if (0.0 === $a) {
                ++$skipped;
            } else {
                $shares += abs($e) / abs($a);
            }
            $negative += $p < 0.0 ? 1 : 0;
            $below += $a < 0.0 ? 1 : 0;
            $logs += $a < 0.0 ? 0.0 : (log1p(max($p, 0.0)) - log1p($a)) ** 2;
        }
        sort($sizes);
        $middle = intdiv($n, 2);
        $around = self::around($actual);
        $out = [
            'n' => $n,
            'rmse' => sqrt($square / $n),
            'mse' => $square / $n,
            'mae' => $absolute / $n,
            'median_ae' => 1 === $n % 2 ? $sizes[$middle] : ($sizes[$middle - 1] + $sizes[$middle]) / 2,
            'max_ae' => $sizes[$n - 1],
            'mape' => $skipped < $n ? $shares / ($n - $skipped) : null,
            'mape_rows_skipped' => $skipped,
            'wmape' => $actualSizes > 0.0 ? $absolute / $actualSizes : null,
            'r2' => $around > 0.0 ? 1 - $square / $around : null,
            'explained_variance' => $around > 0.0 ? 1 - self::around($errors) / $around : null,
            'bias' => $bias / $n,
            'rmsle' => 0 === $below ? sqrt($logs / $n) : null,
            'negative_predictions' => $negative,
            'pearson' => Association::pearson($actual, $predicted)['r'],
            'spearman' => Association::spearman($actual, $predicted)['rho'],
        ];

        return null === $weights ? $out : $out + ['weighted' => self::weighted($actual, $errors, $weights)];
    }

    /** @param list<float> $values */
    private static function around(array $values): float
    {
        $mean = array_sum($values) / max(1, \count($values));
        $square = 0.0;
        foreach ($values as $v) {
            $square += ($v - $mean) ** 2;
        }

        return $square;
    }

    /**
     * @param list<float> $actual
     * @param list<float> $errors
     * @param list<float> $weights
     *
     * @return array{rmse: ?float, mae: ?float, bias: ?float, r2: ?float}
     */
    private static function weighted(array $actual, array $errors, array $weights): array
    {
        $all = array_sum($weights);
        if ($all <= 0.0) {
            return ['rmse' => null, 'mae' => null, 'bias' => null, 'r2' => null];
        }
        $square = $absolute = $bias = $sum = 0.0;
        foreach ($errors as $i => $e) {
            $square += $weights[$i] * $e * $e;
            $absolute += $weights[$i] * abs($e);
            $bias += $weights[$i] * $e;
            $sum += $weights[$i] * $actual[$i];
        }
        $mean = $sum / $all;
        $around = 0.0;
        foreach ($actual as $i => $a) {
            $around += $weights[$i] * ($a - $mean) ** 2;
        }

        return ['rmse' => sqrt($square / $all), 'mae' => $absolute / $all, 'bias' => $bias / $all, 'r2' => $around > 0.0 ? 1 - $square / $around : null];
    }
}
