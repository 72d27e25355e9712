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
        $differences = [];
        foreach ($a as $i => $v) {
            $differences[] = $v - $b[$i];
        }
        $interval = self::interval($differences, $folds);
        $mean = (float) $interval->value;
        if (null === $interval->high) {
            return ['difference' => $mean, 'low' => null, 'high' => null, 'p' => null];
        }
        $t = new StudentT(\count($differences) - 1);
        $error = ($interval->high - $mean) / $t->quantile(0.975);

        return ['difference' => $mean, 'low' => $interval->low, 'high' => $interval->high, 'p' => $error > 0.0 ? $t->twoSided($mean / $error) : (0.0 === $mean ? 1.0 : 0.0)];
    }
}
