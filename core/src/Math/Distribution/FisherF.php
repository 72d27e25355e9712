<?php

declare(strict_types=1);

namespace Dokimos\Core\Math\Distribution;

use Dokimos\Core\Math\Special;

/** Fisher's F with numerator and denominator degrees of freedom. */
final readonly class FisherF implements Continuous
{
    public function __construct(private float $numerator, private float $denominator)
    {
    }

    public function cdf(float $x): float
    {
        if ($x <= 0.0) {
            return 0.0;
        }
        $u = $this->numerator * $x;
        $sum = $u + $this->denominator;

        return Special::beta($u / $sum, $this->denominator / $sum, 0.5 * $this->numerator, 0.5 * $this->denominator);
    }

    public function upper(float $x): float
    {
        if ($x <= 0.0) {
            return 1.0;
        }
        $u = $this->numerator * $x;
        $sum = $u + $this->denominator;

        return Special::beta($this->denominator / $sum, $u / $sum, 0.5 * $this->denominator, 0.5 * $this->numerator);
    }

    public function pdf(float $x): float
    {
        if ($x <= 0.0) {
            return 0.0;
        }
        $a = 0.5 * $this->numerator;
        $b = 0.5 * $this->denominator;
        $u = $this->numerator * $x;
        $sum = $u + $this->denominator;

        return Special::binomialTerm($a, $a + $b, $u / $sum, $this->denominator / $sum) * $a * $b / ($a + $b) / $x;
    }

    public function quantile(float $p): float
    {
        $high = 10.0;
        while ($this->upper($high) > 1.0 - $p) {
            $high *= 2.0;
        }

        return QuantileSearch::find($this, $p, 1e-300, $high);
    }
}
