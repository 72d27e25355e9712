<?php

declare(strict_types=1);

namespace Dokimos\Core\Math\Distribution;

/** A distribution on the real line. */
interface Continuous
{
    /** P(X <= x). */
    public function cdf(float $x): float;

    /** P(X > x), computed directly so that small tails keep their digits. */
    public function upper(float $x): float;

    /** Density at x. */
    public function pdf(float $x): float;

    /** The x with P(X <= x) = p; 0 < p < 1. */
    public function quantile(float $p): float;
}
