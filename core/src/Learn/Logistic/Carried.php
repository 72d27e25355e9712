<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

/** Estimates of standardized columns in the units the columns came in. */
final class Carried
{
    /**
     * From standardized columns to the columns as they came: β = T b, Cov β = T Cov b Tᵀ.
     *
     * @param list<float>       $b
     * @param list<list<float>> $covariance
     * @param list<float>       $means
     * @param list<float>       $spreads
     *
     * @return array{list<float>, list<list<float>>}
     */
    public static function back(array $b, array $covariance, array $means, array $spreads): array
    {
        $width = \count($b);
        $beta = [$b[0]];
        for ($j = 1; $j < $width; ++$j) {
            $beta[$j] = $b[$j] / $spreads[$j];
            $beta[0] -= $beta[$j] * $means[$j];
        }
        $first = array_fill(0, $width, 0.0);
        $first[0] = 1.0;
        for ($j = 1; $j < $width; ++$j) {
            $first[$j] = -$means[$j] / $spreads[$j];
        }
        $carried = [];
        for ($i = 0; $i < $width; ++$i) {
            $row = [];
            for ($j = 0; $j < $width; ++$j) {
                $row[] = $i > 0 && $j > 0 ? $covariance[$i][$j] / ($spreads[$i] * $spreads[$j]) : 0.0;
            }
            $carried[] = $row;
        }
        $half = [];
        for ($j = 0; $j < $width; ++$j) {
            $sum = 0.0;
            for ($k = 0; $k < $width; ++$k) {
                $sum += $first[$k] * $covariance[$k][$j];
            }
            $half[] = $sum;
        }
        $sum = 0.0;
        for ($j = 0; $j < $width; ++$j) {
            $sum += $half[$j] * $first[$j];
        }
        $carried[0][0] = $sum;
        for ($j = 1; $j < $width; ++$j) {
            $carried[0][$j] = $carried[$j][0] = $half[$j] / $spreads[$j];
        }

        /** @var list<float> $beta */
        /** @var list<list<float>> $carried */
        return [$beta, $carried];
    }
}
