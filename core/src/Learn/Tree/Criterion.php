<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** How mixed a node is. Breiman et al. 1984, chapters 4 and 8; gain ratio: Quinlan 1993, chapter 2. */
enum Criterion: string
{
    case Gini = 'Gini';
    case Entropy = 'entropy';
    case GainRatio = 'gain ratio';
    case Variance = 'variance';

    /**
     * Weight times impurity.
     *
     * @param list<float> $counts weight of each class; for a number: weight, sum, sum of squares
     */
    public function total(array $counts): float
    {
        if (self::Variance === $this) {
            return $counts[0] > 0.0 ? max(0.0, $counts[2] - $counts[1] * $counts[1] / $counts[0]) : 0.0;
        }
        $n = array_sum($counts);
        if ($n <= 0.0) {
            return 0.0;
        }
        $sum = 0.0;
        if (self::Gini === $this) {
            foreach ($counts as $c) {
                $sum += $c * $c;
            }

            return $n - $sum / $n;
        }
        foreach ($counts as $c) {
            if ($c > 0.0) {
                $sum -= $c * log($c / $n, 2);
            }
        }

        return $sum;
    }

    /** @param list<float> $counts */
    public function weight(array $counts): float
    {
        return (float) (self::Variance === $this ? $counts[0] : array_sum($counts));
    }
}
