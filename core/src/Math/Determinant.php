<?php

declare(strict_types=1);

namespace Dokimos\Core\Math;

/** Small linear systems by Gaussian elimination with the largest pivot of each column. */
final class Determinant
{
    /** @param list<list<float>> $matrix */
    public static function of(array $matrix): float
    {
        return self::eliminate($matrix, null)[0];
    }

    /**
     * @param list<list<float>> $matrix
     * @param list<float>       $b
     *
     * @return list<float> x of the system A x = b
     */
    public static function solve(array $matrix, array $b): array
    {
        return self::eliminate($matrix, $b)[1];
    }

    /**
     * @param list<list<float>> $a
     * @param ?list<float>      $b
     *
     * @return array{float, list<float>}
     */
    private static function eliminate(array $a, ?array $b): array
    {
        $n = \count($a);
        $b ??= array_values(array_fill(0, max(1, $n), 0.0));
        $determinant = 1.0;
        for ($k = 0; $k < $n; ++$k) {
            $pivot = $k;
            for ($i = $k + 1; $i < $n; ++$i) {
                $pivot = abs($a[$i][$k]) > abs($a[$pivot][$k]) ? $i : $pivot;
            }
            if (0.0 === $a[$pivot][$k]) {
                return [0.0, array_values(array_fill(0, max(1, $n), 0.0))];
            }
            if ($pivot !== $k) {
                [$a[$k], $a[$pivot]] = [$a[$pivot], $a[$k]];
                [$b[$k], $b[$pivot]] = [$b[$pivot], $b[$k]];
                $determinant = -$determinant;
            }
            $determinant *= $a[$k][$k];
            for ($i = $k + 1; $i < $n; ++$i) {
                $factor = $a[$i][$k] / $a[$k][$k];
                for ($j = $k; $j < $n; ++$j) {
                    $a[$i][$j] -= $factor * $a[$k][$j];
                }
                $b[$i] -= $factor * $b[$k];
            }
        }
        $x = [];
        for ($k = $n - 1; $k >= 0; --$k) {
            $sum = $b[$k];
            for ($j = $k + 1; $j < $n; ++$j) {
                $sum -= $a[$k][$j] * $x[$j];
            }
            $x[$k] = $sum / $a[$k][$k];
        }
        ksort($x);

        return [$determinant, array_values($x)];
    }
}
