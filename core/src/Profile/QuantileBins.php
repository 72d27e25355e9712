<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

/**
 * Bins that hold about equally many values: edges at quantiles of type 7 with whole-number index arithmetic, equal edges merged, edges
 * equal to the largest value dropped. A bin is (a, b]: its number is how many edges lie below the value.
 */
final class QuantileBins
{
    /**
     * @param list<float> $values NAN = missing
     *
     * @return list<float> ascending
     */
    public static function edges(array $values, int $bins = 10): array
    {
        $present = [];
        foreach ($values as $v) {
            if ($v === $v) {
                $present[] = $v;
            }
        }
        sort($present, \SORT_NUMERIC);
        $n = \count($present);
        $edges = [];
        for ($k = 1; $n > 0 && $k < $bins; ++$k) {
            $j = intdiv($k * ($n - 1), $bins);
            $g = ($k * ($n - 1) % $bins) / $bins;
            $edge = $g > 0.0 ? $present[$j] + $g * ($present[$j + 1] - $present[$j]) : $present[$j];
            if ($edge < $present[$n - 1] && ([] === $edges || $edge > $edges[\count($edges) - 1])) {
                $edges[] = $edge;
            }
        }

        return $edges;
    }

    /**
     * The same bins with edges as people would say them: of whole numbers, "up to 8" is the same as "up to 8.25".
     *
     * @param list<float> $values
     *
     * @return list<float>
     */
    public static function spoken(array $values, int $bins = 10): array
    {
        foreach ($values as $v) {
            if ($v === $v && $v !== floor($v)) {
                return self::edges($values, $bins);
            }
        }

        return array_values(array_unique(array_map(floor(...), self::edges($values, $bins))));
    }

    /**
     * @param list<float> $values
     * @param list<float> $edges
     *
     * @return list<int> -1 = missing
     */
    public static function codes(array $values, array $edges): array
    {
        $codes = [];
        $count = \count($edges);
        foreach ($values as $v) {
            if ($v !== $v) {
                $codes[] = -1;
                continue;
            }
            $low = 0;
            $high = $count;
            while ($low < $high) {
                $middle = ($low + $high) >> 1;
                if ($edges[$middle] < $v) {
                    $low = $middle + 1;
                } else {
                    $high = $middle;
                }
            }
            $codes[] = $low;
        }

        return $codes;
    }
}
