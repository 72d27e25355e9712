<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

/** Bins of equal width between the smallest and the largest value, on the plain or on the logarithmic scale. */
final class ScaledBins
{
    /**
     * On the logarithmic scale values of 0 and less have one bin of their own at the beginning.
     *
     * @param list<float> $values NAN = missing
     *
     * @return list<float> edges, ascending, one more than bins; none when there is no value
     */
    public static function edges(array $values, int $bins, bool $log): array
    {
        $low = \INF;
        $high = $least = -\INF;
        $hasRest = false;
        foreach ($values as $v) {
            if ($v !== $v) {
                continue;
            }
            if ($log && $v <= 0.0) {
                $hasRest = true;
                $least = -\INF === $least ? $v : min($least, $v);
                continue;
            }
            $low = $v < $low ? $v : $low;
            $high = $v > $high ? $v : $high;
        }
        if ($low > $high) {
            return $hasRest ? [$least, 0.0] : [];
        }
        $edges = $hasRest ? [min($least, 0.0)] : [];
        if ($low === $high) {
            return [...$edges, $low, $low];
        }
        for ($i = 0; $i <= $bins; ++$i) {
            $edges[] = match (true) {
                0 === $i => $low,
                $i === $bins => $high,
                $log => $low * ($high / $low) ** ($i / $bins),
                default => $low + ($high - $low) * $i / $bins,
            };
        }

        return $edges;
    }
}
