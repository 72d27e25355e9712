<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Design\Matrix;

/** Whether the likelihood has no highest point, and the terms by which (Albert and Anderson 1984). */
final class Separation
{
    /** Standard error times spread beyond which a term is taken to run to infinity; honest fits stay below 1. */
    private const RUNAWAY = 50.0;

    /**
     * @param list<list<float>> $y
     *
     * @return ?list<string> 0/1 terms of which one side has one outcome only
     */
    public static function pure(Matrix $x, array $y): ?array
    {
        $pure = [];
        foreach ($x->names as $j => $name) {
            // Rows and events among those with 0 and with 1.
            $rows = $events = [0, 0];
            foreach ($x->column($j) as $b => $column) {
                foreach ($column as $r => $v) {
                    if (0.0 !== $v && 1.0 !== $v) {
                        continue 3;
                    }
                    ++$rows[(int) $v];
                    $events[(int) $v] += $y[$b][$r] > 0.5 ? 1 : 0;
                }
            }
            foreach ([0, 1] as $side) {
                if ($j > 0 && $rows[1 - $side] > 0 && $rows[$side] > 0 && (0 === $events[$side] || $events[$side] === $rows[$side])) {
                    $pure[] = $name;
                    break;
                }
            }
        }

        return [] === $pure ? null : $pure;
    }

    /**
     * @param list<list<float>> $covariance
     * @param list<string>      $names
     *
     * @return ?list<string> the terms that run away; [] when the classes are completely separated; null when all is well
     */
    public static function found(NewtonFit $fit, array $covariance, array $names, float $weightSum): ?array
    {
        if ($fit->logLikelihood > -1e-6 * $weightSum) {
            return [];
        }
        $running = [];
        foreach ($names as $j => $name) {
            if ($j > 0 && sqrt(max(0.0, $covariance[$j][$j])) > self::RUNAWAY) {
                $running[] = $name;
            }
        }

        return [] === $running && $fit->converged ? null : $running;
    }
}
