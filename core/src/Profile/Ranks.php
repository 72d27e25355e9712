<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

/** Ranks from 1; equal values share the mean of their ranks. */
final class Ranks
{
    /**
     * @param list<float> $values
     *
     * @return list<float> from 1; equal values share their mean rank
     */
    public static function of(array $values): array
    {
        $order = $values;
        asort($order, \SORT_NUMERIC);
        $places = array_keys($order);
        $ranks = $values;
        $n = \count($places);
        for ($i = 0; $i < $n; $i = $j) {
            $v = $values[$places[$i]];
            for ($j = $i + 1; $j < $n && $values[$places[$j]] === $v; ++$j) {
            }
            $rank = 0.5 * ($i + $j + 1);
            for ($k = $i; $k < $j; ++$k) {
                $ranks[$places[$k]] = $rank;
            }
        }

        return array_values($ranks);
    }
}
