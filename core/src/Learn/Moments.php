<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** Mean and spread of weighted values, safe for very large and very small ones. */
final class Moments
{
    /**
     * @param list<float> $values  finite
     * @param list<float> $weights above 0
     *
     * @return array{float, float, float} weight in all, mean, and standard deviation (divisor n - 1; NAN of fewer than two values)
     */
    public static function of(array $values, array $weights): array
    {
        $n = \count($values);
        if (0 === $n) {
            return [0.0, \NAN, \NAN];
        }
        $scale = max(1e-300, max(array_map(abs(...), $values)));
        $all = array_sum($weights);
        $sum = 0.0;
        foreach ($values as $i => $v) {
            $sum += $weights[$i] * ($v / $scale);
        }
        $mean = $sum / $all;
        $squares = $rest = 0.0;
        foreach ($values as $i => $v) {
            $d = $v / $scale - $mean;
            $squares += $weights[$i] * $d * $d;
            $rest += $weights[$i] * $d;
        }
        // What rounding left of the mean is taken out.
        $squares = max(0.0, $squares - $rest * $rest / $all);

        return [$all, $mean * $scale, $n < 2 ? \NAN : sqrt($squares / ($all * ($n - 1) / $n)) * $scale];
    }
}
