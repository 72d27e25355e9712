<?php

declare(strict_types=1);

namespace Dokimos\Core\Math\Distribution;

/** How far two empirical distribution functions lie apart by chance alone, in the limit of many records (Kolmogorov 1933; Smirnov 1948). */
final class Kolmogorov
{
    /** @param float $x the largest distance times sqrt(n m / (n + m)) */
    public static function upper(float $x): float
    {
        if ($x <= 0.0) {
            return 1.0;
        }
        // Either series comes to an end soon where the other does not.
        if ($x < 1.0) {
            $sum = 0.0;
            for ($k = 1; $k < 20; ++$k) {
                $sum += exp(-(2 * $k - 1) ** 2 * \M_PI ** 2 / (8 * $x * $x));
            }

            return max(0.0, min(1.0, 1.0 - sqrt(2 * \M_PI) / $x * $sum));
        }
        $sum = 0.0;
        for ($k = 1; $k < 100; ++$k) {
            $term = exp(-2 * $k * $k * $x * $x);
            $sum += 1 === $k % 2 ? $term : -$term;
            if ($term < 1e-20 * $sum) {
                break;
            }
        }

        return max(0.0, min(1.0, 2 * $sum));
    }
}
