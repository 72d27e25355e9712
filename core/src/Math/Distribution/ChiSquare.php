<?php

declare(strict_types=1);

namespace Dokimos\Core\Math\Distribution;

use Dokimos\Core\Math\Special;

/** Chi-square; degrees of freedom > 0. */
final readonly class ChiSquare implements Continuous
{
    public function __construct(private float $df)
    {
    }

    public function cdf(float $x): float
    {
        return Special::gammaP(0.5 * $this->df, 0.5 * $x);
    }

    public function upper(float $x): float
    {
        return Special::gammaQ(0.5 * $this->df, 0.5 * $x);
    }

    public function pdf(float $x): float
    {
        return $x <= 0.0 ? 0.0 : Special::poissonTerm(0.5 * $this->df, 0.5 * $x) * 0.5 * $this->df / $x;
    }

    public function quantile(float $p): float
    {
        $high = $this->df + 10.0;
        while ($this->upper($high) > 1.0 - $p) {
            $high *= 2.0;
        }

        return QuantileSearch::find($this, $p, 1e-300, $high);
    }
}
