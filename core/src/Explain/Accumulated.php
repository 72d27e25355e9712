<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * Accumulated local effects (Apley and Zhu 2020): what the answers change as a number goes from one end of a short interval to the other,
 * for the
 * records that lie in it, added up. Where columns go together it asks for no record that cannot be. Definition: docs/methods/effects.md.
 */
final readonly class Accumulated
{
    /**
     * @param list<float> $edges  ascending
     * @param list<int>   $counts rows of each interval
     * @param list<float> $local  mean change of the answers over each interval
     * @param float       $centre mean over the rows before it was taken off
     * @param list<float> $effect at each edge, with a mean of 0 over the rows
     */
    private function __construct(public array $edges, public array $counts, public array $local, public float $centre, public array $effect)
    {
    }

    /**
     * @param \Closure(Table): list<float> $answers
     * @param int                          $intervals as many as quantiles tell apart
     *
     * @return ?self null where the column has fewer than two different values
     */
    public static function of(\Closure $answers, Table $table, string $column, int $intervals = 10): ?self
    {
        $values = $table->number($column)->values;
        $rows = array_keys(array_filter($values, is_finite(...)));
        $known = array_map(static fn (int $r): float => $values[$r], $rows);
        $edges = self::edges($known, $intervals);
        if (\count($edges) < 2) {
            return null;
        }
        $place = array_map(static fn (float $v): int => self::interval($edges, $v), $known);
        $own = $table->take($rows);
        $ends = [];
        foreach ([0, 1] as $end) {
            $ends[] = $answers($own->with($column, new NumberColumn(array_map(static fn (int $k): float => $edges[$k + $end], $place))));
        }
        $sums = $counts = array_fill(0, \count($edges) - 1, 0);
        foreach ($place as $i => $k) {
            $change = $ends[1][$i] - $ends[0][$i];
            if (!is_nan($change)) {
                $sums[$k] += $change;
                ++$counts[$k];
            }
        }
        $local = array_map(static fn (float|int $s, int $n): float => 0 === $n ? 0.0 : $s / $n, $sums, $counts);
        $effect = [0.0];
        $centre = 0.0;
        foreach ($local as $k => $change) {
            $effect[] = $effect[$k] + $change;
            $centre += $counts[$k] * ($effect[$k] + $effect[$k + 1]) / 2;
        }
        $centre /= max(1, array_sum($counts));

        return new self(
            $edges,
            array_values($counts),
            array_values($local),
            $centre,
            array_map(static fn (float $e): float => $e - $centre, $effect),
        );
    }

    /**
     * @param list<float> $known
     *
     * @return list<float> the minimum, the quantiles between (type 7), and the maximum; equal ones once
     */
    public static function edges(array $known, int $intervals): array
    {
        sort($known);
        $n = \count($known);
        $edges = [];
        for ($k = 0; $n > 0 && $k <= $intervals; ++$k) {
            // Whole numbers, so that a quantile that is a value is that value.
            $i = intdiv($k * ($n - 1), $intervals);
            $part = ($k * ($n - 1) % $intervals) / $intervals;
            $edge = $known[$i] + ($part > 0.0 ? $part * ($known[$i + 1] - $known[$i]) : 0.0);
            if ([] === $edges || $edge > $edges[\count($edges) - 1]) {
                $edges[] = $edge;
            }
        }

        return $edges;
    }

    /** @param list<float> $edges the interval whose upper end is the first not below the value; the minimum is of the first */
    private static function interval(array $edges, float $value): int
    {
        [$low, $high] = [1, \count($edges) - 1];
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            if ($edges[$middle] < $value) {
                $low = $middle + 1;
            } else {
                $high = $middle;
            }
        }

        return $low - 1;
    }
}
