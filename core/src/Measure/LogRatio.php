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
        [$own, $error] = self::once($a, $b, null);
        if ($n < 2 || null === $own || null === $error) {
            return null;
        }
        if ($n > self::DRAWN) {
            return [$own, $own - 1.959963984540054 * $error, $own + 1.959963984540054 * $error];
        }
        $random = Random::stream(null, 'log ratio');
        $draws = [];
        for ($k = 0; $k < self::DRAWS; ++$k) {
            $counts = array_fill(0, $n, 0);
            for ($i = 0; $i < $n; ++$i) {
                ++$counts[$random->getInt(0, $n - 1)];
            }
            [$drawn, $spread] = self::once($a, $b, $counts);
            if (null !== $drawn && null !== $spread && $spread > 0.0) {
                $draws[] = ($drawn - $own) / $spread;
            }
        }
        if (\count($draws) < self::DRAWS / 2) {
            return [$own, $own - 1.959963984540054 * $error, $own + 1.959963984540054 * $error];
        }
        sort($draws);
        $last = \count($draws) - 1;

        return [$own, $own - $error * $draws[(int) ceil(0.975 * $last)], $own - $error * $draws[(int) floor(0.025 * $last)]];
    }

    /**
     * @param non-empty-list<float> $a
     * @param ?list<float>          $b
     * @param ?array<int, int>      $counts how often each row was drawn
     *
     * @return array{?float, ?float} ln of the ratio and its standard error (delta method)
     */
    private static function once(array $a, ?array $b, ?array $counts): array
    {
        $n = \count($a);
        $sumA = $sumB = 0.0;
        foreach ($a as $i => $v) {
            $c = $counts[$i] ?? 1;
            $sumA += $c * $v;
            $sumB += $c * ($b[$i] ?? 1.0);
        }
        if ($sumA <= 0.0 || $sumB <= 0.0) {
            return [null, null];
        }
        $square = 0.0;
        foreach ($a as $i => $v) {
            $square += ($counts[$i] ?? 1) * ($v / $sumA - ($b[$i] ?? 1.0) / $sumB) ** 2;
        }

        return [log($sumA / $sumB), sqrt($square * $n / max(1, $n - 1))];
    }
}
