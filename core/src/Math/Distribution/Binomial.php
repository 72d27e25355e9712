<?php

declare(strict_types=1);

namespace Dokimos\Core\Math\Distribution;

use Dokimos\Core\Math\Special;

/** The number of successes in a whole number of trials. */
final readonly class Binomial
{
    public function __construct(private int $trials, private float $probability)
    {
    }

    public function pmf(int $k): float
    {
        return $k < 0 || $k > $this->trials ? 0.0 : Special::binomialTerm($k, $this->trials, $this->probability, 1.0 - $this->probability);
    }

    /** P(X <= k). */
    public function cdf(int $k): float
    {
        if ($k < 0) {
            return 0.0;
        }

        return $k >= $this->trials ? 1.0 : Special::beta(1.0 - $this->probability, $this->probability, $this->trials - $k, $k + 1);
    }

    /** P(X > k), computed directly. */
    public function upper(int $k): float
    {
        if ($k < 0) {
            return 1.0;
        }

        return $k >= $this->trials ? 0.0 : Special::beta($this->probability, 1.0 - $this->probability, $k + 1, $this->trials - $k);
    }

    /** The smallest k with P(X <= k) >= p. */
    public function quantile(float $p): int
    {
        $low = 0;
        $high = $this->trials;
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            if ($this->cdf($middle) >= $p) {
                $high = $middle;
            } else {
                $low = $middle + 1;
            }
        }

        return $low;
    }
}
