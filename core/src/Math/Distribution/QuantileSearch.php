<?php

declare(strict_types=1);

namespace Dokimos\Core\Math\Distribution;

/** Inverts a distribution function by Newton steps kept inside a shrinking bracket. */
final class QuantileSearch
{
    /**
     * @param float $low  a point below the quantile
     * @param float $high a point above it
     */
    public static function find(Continuous $distribution, float $p, float $low, float $high): float
    {
        $upperTail = $p > 0.5;
        $goal = $upperTail ? 1.0 - $p : $p;
        $x = 0.5 * ($low + $high);
        for ($i = 0; $i < 400; ++$i) {
            $value = $upperTail ? $distribution->upper($x) : $distribution->cdf($x);
            $tooHigh = $upperTail ? $value < $goal : $value > $goal;
            if ($value === $goal) {
                return $x;
            }
            if ($tooHigh) {
                $high = $x;
            } else {
                $low = $x;
            }
            $slope = $distribution->pdf($x);
            // A Newton step on the logarithm of the tail is nearly straight far out.
            $step = $value > 0.0 && $slope > 0.0 ? $value * log($value / $goal) / $slope : \INF;
            $next = $upperTail ? $x + $step : $x - $step;
            if (!($next > $low && $next < $high)) {
                $next = $low > 0.0 && $high / $low > 4.0 ? sqrt($low * $high) : 0.5 * ($low + $high);
            }
            if (abs($next - $x) <= 1e-15 * abs($x)) {
                return $next;
            }
            $x = $next;
        }

        return $x;
    }
}
