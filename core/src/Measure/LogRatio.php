<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

use Dokimos\Core\Random;

/**
 * The interval of ln(mean of a / mean of b) by the bootstrap-t (Efron and Tibshirani 1993, section 12.5): each draw is divided by its own
 * standard error, so that long tails, whose mean and error rise and fall together, lean the interval as they should. Seeded.
 */
final class LogRatio
{
    private const DRAWS = 400;
    /** With more rows the error is known well enough without drawing again. */
    private const DRAWN = 5000;

    /**
     * @param non-empty-list<float> $a none below 0
     * @param ?list<float>          $b none below 0; null = 1 everywhere
     *
     * @return ?array{float, float, float} the logarithm and its ends; null where there is none
     */
    public static function of(array $a, ?array $b = null): ?array
    {
        $n = \count($a);
        [$own, $error] = self::once($a, $b);
        if ($n < 2 || null === $own || null === $error) {
            return null;
        }
        if ($n > self::DRAWN) {
            return [$own, $own - 1.959963984540054 * $error, $own + 1.959963984540054 * $error];
        }
        $draws = self::draws($a, $b, $own);
        if (\count($draws) < self::DRAWS / 2) {
            return [$own, $own - 1.959963984540054 * $error, $own + 1.959963984540054 * $error];
        }
        sort($draws);
        $last = \count($draws) - 1;

        return [$own, $own - $error * $draws[(int) ceil(0.975 * $last)], $own - $error * $draws[(int) floor(0.025 * $last)]];
    }

    /**
     * How far each draw lies from what was seen, in standard errors of its own. The error of a draw follows from five sums: the squares of
     * a/A − b/B are a²/A² − 2ab/(AB) + b²/B², so that nothing is gone through twice.
     *
     * @param non-empty-list<float> $a
     * @param ?list<float>          $b
     *
     * @return list<float>
     */
    private static function draws(array $a, ?array $b, float $own): array
    {
        $n = \count($a);
        $random = Random::stream(null, 'log ratio');
        $draws = [];
        for ($k = 0; $k < self::DRAWS; ++$k) {
            $sumA = $sumB = $sumAA = $sumAB = $sumBB = 0.0;
            if (null === $b) {
                for ($i = 0; $i < $n; ++$i) {
                    $v = $a[$random->getInt(0, $n - 1)];
                    $sumA += $v;
                    $sumAA += $v * $v;
                }
                $sumAB = $sumA;
                $sumB = $sumBB = (float) $n;
            } else {
                for ($i = 0; $i < $n; ++$i) {
                    $j = $random->getInt(0, $n - 1);
                    $v = $a[$j];
                    $w = $b[$j];
                    $sumA += $v;
                    $sumB += $w;
                    $sumAA += $v * $v;
                    $sumAB += $v * $w;
                    $sumBB += $w * $w;
                }
            }
            if ($sumA <= 0.0 || $sumB <= 0.0) {
                continue;
            }
            $whole = $sumAA / ($sumA * $sumA) + $sumBB / ($sumB * $sumB);
            $square = $whole - 2.0 * $sumAB / ($sumA * $sumB);
            // What is left of equal terms is rounding.
            if ($square > 1e-13 * $whole) {
                $draws[] = (log($sumA / $sumB) - $own) / sqrt($square * $n / max(1, $n - 1));
            }
        }

        return $draws;
    }

    /**
     * @param non-empty-list<float> $a
     * @param ?list<float>          $b
     *
     * @return array{?float, ?float} ln of the ratio and its standard error (delta method)
     */
    private static function once(array $a, ?array $b): array
    {
        $n = \count($a);
        $sumA = array_sum($a);
        $sumB = null === $b ? (float) $n : array_sum($b);
        if ($sumA <= 0.0 || $sumB <= 0.0) {
            return [null, null];
        }
        $square = 0.0;
        foreach ($a as $i => $v) {
            $square += ($v / $sumA - ($b[$i] ?? 1.0) / $sumB) ** 2;
        }

        return [log($sumA / $sumB), sqrt($square * $n / max(1, $n - 1))];
    }
}
