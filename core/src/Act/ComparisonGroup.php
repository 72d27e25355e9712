<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

use Dokimos\Core\Math\Distribution\Normal;

/**
 * Part of a list left untouched by draw, so that what acting does can be measured later. Definition: docs/methods/action-list.md (decision
 * 56).
 */
final class ComparisonGroup
{
    /** An effect as large as the smallest visible one is seen in so many of 100 such groups. */
    private const POWER = 0.8;

    /**
     * Draws it, within each group of the capacity: the same records whatever their order.
     *
     * @param list<int>             $list     lengthened, so that those acted on are still as many
     * @param float                 $share    that is left untouched
     * @param Capacity              $capacity for those acted on
     * @param \Closure(int): string $tie      tells a record
     *
     * @return list<int> those left untouched, in the order of the list
     */
    public static function drawn(array $list, float $share, Capacity $capacity, \Closure $tie, int|string $seed): array
    {
        $groups = [];
        foreach ($list as $row) {
            $groups[null === $capacity->each ? '' : (string) ($capacity->groups[$row] ?? '')][] = $row;
        }
        $left = [];
        foreach ($groups as $rows) {
            $n = \count($rows);
            $least = $n - min($n, $capacity->each ?? \PHP_INT_MAX, 1 === \count($groups) ? $capacity->most ?? \PHP_INT_MAX : \PHP_INT_MAX);
            $marks = [];
            foreach ($rows as $row) {
                $marks[$row] = hash('sha256', $seed."\0".$tie($row));
            }
            asort($marks, \SORT_STRING);
            $left += \array_slice($marks, 0, max($least, (int) round($share * $n)), true);
        }

        return array_values(array_filter($list, static fn (int $row): bool => isset($left[$row])));
    }

    /**
     * The smallest share of events prevented that such groups would show, more often than not (4 in 5), at 5 %.
     *
     * @param float $rate of events among those left untouched
     *
     * @return ?float null where even preventing all of them would not
     */
    public static function visible(int $acted, int $left, float $rate): ?float
    {
        if ($acted < 1 || $left < 1 || $rate <= 0.0) {
            return null;
        }
        $z = Normal::Z95 + (new Normal())->quantile(self::POWER);
        // By halving: the variance of those acted on shrinks with the effect.
        [$low, $high] = [0.0, 1.0];
        $shows = static function (float $works) use ($acted, $left, $rate, $z): bool {
            $other = $rate * (1.0 - $works);
            $error = sqrt($other * (1.0 - $other) / $acted + $rate * (1.0 - $rate) / $left);

            return $rate - $other >= $z * $error;
        };
        if (!$shows(1.0)) {
            return null;
        }
        for ($k = 0; $k < 60; ++$k) {
            $middle = ($low + $high) / 2;
            if ($shows($middle)) {
                $high = $middle;
            } else {
                $low = $middle;
            }
        }

        return $high;
    }
}
