<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Math\Distribution\StudentT;
use Dokimos\Core\Measure\Interval;

/**
 * The mean of a figure over repeated folds, with the corrected resampled variance (Nadeau and Bengio 2003): training sets of the
 * folds overlap, so the plain variance of the mean would be too small. Variance × (1/J + n_validation / n_training).
 */
final class Resampled
{
    /** @param list<float> $figures one per fold and repeat */
    public static function interval(array $figures, int $folds): Interval
    {
        $n = \count($figures);
        if (0 === $n) {
            return new Interval(null);
        }
        $mean = array_sum($figures) / $n;
        if ($n < 2 || $folds < 2) {
            return new Interval($mean);
        }
        $square = 0.0;
        foreach ($figures as $f) {
            $square += ($f - $mean) ** 2;
        }
        $error = sqrt($square / ($n - 1) * (1 / $n + 1 / ($folds - 1)));
        $half = (new StudentT($n - 1))->quantile(0.975) * $error;

        return new Interval($mean, $mean - $half, $mean + $half);
    }

    /**
     * The corrected resampled t test of two models on the same folds.
     *
     * @param list<float> $a
     * @param list<float> $b
     *
     * @return array{difference: float, low: ?float, high: ?float, p: ?float}
     */
    public static function compare(array $a, array $b, int $folds): array
    {
        $n = \count($a);
        if ($n < 2 || $folds < 2) {
            return ['difference' => 0 === $n ? 0.0 : (array_sum($a) - array_sum($b)) / $n, 'low' => null, 'high' => null, 'p' => null];
        }
        /** @var array{difference: array{mean: float}, corrected: array{p: ?float, ci_low: float, ci_high: float}} $all */
        $all = FoldComparison::of($a, $b, 1 / ($folds - 1));
        $mean = $all['difference']['mean'];

        // Without any spread there is no test: the same difference everywhere is certain, and none at all is none.
        return [
            'difference' => $mean,
            'low' => $all['corrected']['ci_low'],
            'high' => $all['corrected']['ci_high'],
            'p' => $all['corrected']['p'] ?? (0.0 === $mean ? 1.0 : 0.0),
        ];
    }
}
