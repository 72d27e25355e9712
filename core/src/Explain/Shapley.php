<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

/**
 * Shares what a game is worth out among its players (Shapley 1953): each gets the mean of what it adds, over all orders in which players
 * may
 * join. Sets of players are bits of a number. Definition: docs/methods/accounts.md.
 */
final class Shapley
{
    /** More players take longer than anybody waits: 2 to the power of them are asked. */
    public const MOST = 16;

    /**
     * @param \Closure(int): float $worth of a set of players; asked once for each set
     *
     * @return list<float> one per player; they add up to the worth of all less that of none
     *
     * @throws \InvalidArgumentException at most 16 players are shared out exactly
     */
    public static function exact(int $players, \Closure $worth): array
    {
        $values = self::worths($players, $worth);
        $weights = self::weights($players);
        $out = array_fill(0, $players, 0.0);
        foreach ($values as $set => $value) {
            $size = self::size($set);
            for ($j = 0; $j < $players; ++$j) {
                $out[$j] += ($set >> $j & 1) === 1 ? $weights[$size - 1] * $value : -$weights[$size] * $value;
            }
        }

        return array_values($out);
    }

    /**
     * What players are worth together beyond each alone: half of a pair's interaction in each of its two cells, and on the diagonal what is
     * left
     * of a player's value (Grabisch and Roubens 1999; Lundberg et al. 2020).
     *
     * @param \Closure(int): float $worth
     *
     * @return list<list<float>> its rows add up to the players' values
     *
     * @throws \InvalidArgumentException at most 16 players are shared out exactly
     */
    public static function interactions(int $players, \Closure $worth): array
    {
        $values = self::worths($players, $worth);
        $own = self::exact($players, static fn (int $set): float => $values[$set]);
        $factorial = [1.0];
        for ($k = 1; $k <= $players; ++$k) {
            $factorial[] = $factorial[$k - 1] * $k;
        }
        $out = array_fill(0, $players, array_fill(0, $players, 0.0));
        for ($i = 0; $i < $players; ++$i) {
            for ($j = $i + 1; $j < $players; ++$j) {
                [$a, $b] = [1 << $i, 1 << $j];
                $sum = 0.0;
                foreach ($values as $set => $value) {
                    if (0 === ($set & ($a | $b))) {
                        $size = self::size($set);
                        $weight = $factorial[$size] * $factorial[$players - $size - 2] / (2 * $factorial[$players - 1]);
                        $sum += $weight * ($values[$set | $a | $b] - $values[$set | $a] - $values[$set | $b] + $value);
                    }
                }
                $out[$i][$j] = $out[$j][$i] = $sum;
            }
        }
        for ($i = 0; $i < $players; ++$i) {
            $out[$i][$i] = $own[$i] - array_sum($out[$i]);
        }

        return array_map(array_values(...), $out);
    }

    /**
     * @param \Closure(int): float $worth
     *
     * @return list<float> by set
     */
    private static function worths(int $players, \Closure $worth): array
    {
        if ($players > self::MOST) {
            throw new \InvalidArgumentException(\sprintf('At most %d players are shared out exactly.', self::MOST));
        }

        return array_map($worth, range(0, (1 << $players) - 1));
    }

    /** @return list<float> by size of a set that a player joins: how many orders have exactly these before it */
    public static function weights(int $players): array
    {
        $weights = [];
        $weight = 1.0 / max(1, $players);
        for ($size = 0; $size < $players; ++$size) {
            $weights[] = $weight;
            // s! (M - s - 1)! / M!, one size after the other.
            $weight *= ($size + 1) / max(1, $players - $size - 1);
        }

        return $weights;
    }

    public static function size(int $set): int
    {
        for ($n = 0; 0 !== $set; ++$n) {
            $set &= $set - 1;
        }

        return $n;
    }
}
