<?php

declare(strict_types=1);

namespace Dokimos\Core\Math\Distribution;

use Dokimos\Core\Math\Special;

/** Student's t; degrees of freedom > 0, not necessarily whole. */
final readonly class StudentT implements Continuous
{
    public function __construct(private float $df)
    {
    }

    public function cdf(float $x): float
    {
        return $this->upper(-$x);
    }

    public function upper(float $x): float
    {
        $square = $x * $x;
        $sum = $this->df + $square;
        $half = 0.5 * Special::beta($this->df / $sum, $square / $sum, 0.5 * $this->df, 0.5);

        return $x > 0.0 ? $half : 1.0 - $half;
    }

    /** P(|T| > |t|). */
    public function twoSided(float $t): float
    {
        return 2.0 * $this->upper(abs($t));
    }

    public function pdf(float $x): float
    {
        $n = $this->df;

        return exp(Special::logGamma(0.5 * ($n + 1)) - Special::logGamma(0.5 * $n) - 0.5 * log($n * \M_PI) - 0.5 * ($n + 1) * log1p($x * $x / $n));
    }

    public function quantile(float $p): float
    {
        if (0.5 === $p) {
            return 0.0;
        }
        if ($p > 0.5) {
            $high = 1.0;
            while ($this->upper($high) > 1.0 - $p) {
                $high *= 2.0;
            }

            return QuantileSearch::find($this, $p, 0.0, $high);
        }
        $low = -1.0;
        while ($this->cdf($low) > $p) {
            $low *= 2.0;
        }

        return QuantileSearch::find($this, $p, $low, 0.0);
    }
}
