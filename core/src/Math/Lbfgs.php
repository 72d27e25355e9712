<?php

declare(strict_types=1);

namespace Dokimos\Core\Math;

use Dokimos\Core\Progress;
use Dokimos\Core\Silent;

/**
 * The highest point of a smooth, concave function by its slope alone: the last steps stand in for the curvature (limited-memory BFGS,
 * Nocedal and Wright 2006, algorithm 7.5), with halving until the gain is worth the step.
 */
final class Lbfgs
{
    private const MEMORY = 12;
    private const STEPS = 1000;

    /**
     * Where the function is highest, its value there, steps taken, and whether its slope has vanished.
     *
     * @param list<float>                                      $start
     * @param \Closure(list<float>): array{float, list<float>} $of    value and gradient
     *
     * @return array{place: list<float>, value: float, steps: int, converged: bool}
     */
    public static function highest(array $start, \Closure $of, ?Progress $progress = null): array
    {
        $progress ??= new Silent();
        $x = $start;
        [$value, $gradient] = $of($x);
        /** @var list<array{list<float>, list<float>, float}> $past moves, changes of the slope, one over their product */
        $past = [];
        for ($step = 1; $step <= self::STEPS; ++$step) {
            $progress->report(min(0.95, $step / 200));
            $direction = self::direction($gradient, $past);
            $rise = self::dot($direction, $gradient);
            if ($rise <= 1e-14 * (1 + abs($value))) {
                return ['place' => $x, 'value' => $value, 'steps' => $step, 'converged' => true];
            }
            $size = [] === $past ? min(1.0, 1 / sqrt(self::dot($gradient, $gradient))) : 1.0;
            $better = false;
            for ($halving = 0; $halving < 40; ++$halving) {
                $candidate = [];
                foreach ($x as $i => $v) {
                    $candidate[] = $v + $size * $direction[$i];
                }
                [$new, $slope] = $of($candidate);
                if ($new >= $value + 1e-4 * $size * $rise) {
                    $better = true;
                    break;
                }
                $size *= 0.5;
            }
            if (!$better) {
                // No step gains what its slope promises: rounding is all that is left.
                return ['place' => $x, 'value' => $value, 'steps' => $step, 'converged' => $rise <= 1e-9 * (1 + abs($value))];
            }
            $move = $change = [];
            foreach ($x as $i => $v) {
                $move[] = $candidate[$i] - $v;
                $change[] = $gradient[$i] - $slope[$i];
            }
            $product = self::dot($move, $change);
            if ($product > 1e-300) {
                $past[] = [$move, $change, 1 / $product];
                $past = \array_slice($past, -self::MEMORY);
            }
            [$x, $value, $gradient] = [$candidate, $new, $slope];
        }

        return ['place' => $x, 'value' => $value, 'steps' => self::STEPS, 'converged' => false];
    }

    /**
     * @param list<float>                                  $gradient
     * @param list<array{list<float>, list<float>, float}> $past
     *
     * @return list<float>
     */
    private static function direction(array $gradient, array $past): array
    {
        $q = $gradient;
        $shares = [];
        for ($k = \count($past) - 1; $k >= 0; --$k) {
            [$move, $change, $inverse] = $past[$k];
            $shares[$k] = $a = $inverse * self::dot($move, $q);
            foreach ($change as $i => $v) {
                $q[$i] -= $a * $v;
            }
        }
        if ([] !== $past) {
            [, $change, $inverse] = $past[\count($past) - 1];
            $scale = 1 / ($inverse * self::dot($change, $change));
            foreach ($q as $i => $v) {
                $q[$i] = $scale * $v;
            }
        }
        foreach ($past as $k => [$move, $change, $inverse]) {
            $b = $shares[$k] - $inverse * self::dot($change, $q);
            foreach ($move as $i => $v) {
                $q[$i] += $b * $v;
            }
        }

        return array_values($q);
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     */
    private static function dot(array $x, array $y): float
    {
        $sum = 0.0;
        foreach ($x as $i => $v) {
            $sum += $v * $y[$i];
        }

        return $sum;
    }
}
