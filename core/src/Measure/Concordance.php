<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

use Dokimos\Core\Math\Distribution\Normal;

/**
 * How well a score orders a number: of two records whose numbers differ, the share in which the one scored higher has the higher number; equal
 * scores count half. 0.5 is no order. Of a number of two values it is the area under the ROC curve. The variance is that of a ratio of two
 * U-statistics by their projections on single records (Hoeffding 1948; Newson 2006): Σ (2 (a_i - C b_i) / b)² / n², with a_i the mean over
 * all records of the pairs that i orders rightly, b_i of those whose numbers differ, and b the mean of b_i.
 */
final readonly class Concordance
{
    private function __construct(public float $value, public float $variance)
    {
    }

    /**
     * @param list<float> $outcome numbers, none missing
     * @param list<float> $score   of the same records
     *
     * @return ?self null where all numbers are equal
     */
    public static function of(array $outcome, array $score): ?self
    {
        $n = \count($outcome);
        $distinct = array_values(array_unique($score, \SORT_NUMERIC));
        sort($distinct, \SORT_NUMERIC);
        $place = [];
        foreach ($distinct as $k => $v) {
            $place[(string) $v] = $k + 1;
        }
        $places = [];
        foreach ($score as $v) {
            $places[] = $place[(string) $v];
        }
        asort($outcome, \SORT_NUMERIC);
        $order = array_keys($outcome);
        $right = $differ = array_fill(0, $n, 0.0);
        self::count($order, $outcome, $places, \count($distinct), $right, $differ);
        // The other way round, a higher number is to have the higher score.
        self::count(array_reverse($order), $outcome, array_map(static fn (int $p): int => \count($distinct) + 1 - $p, $places), \count($distinct), $right, $differ);
        $pairs = array_sum($differ);
        if ($pairs <= 0.0) {
            return null;
        }
        $value = array_sum($right) / $pairs;
        $square = 0.0;
        foreach ($right as $i => $r) {
            $square += ($r - $value * $differ[$i]) ** 2;
        }

        return new self($value, 4.0 * $square / ($pairs * $pairs));
    }

    public function half(): float
    {
        return Normal::Z95 * sqrt($this->variance);
    }

    /**
     * Adds to every record how many of those before it in the order, by another number, have the lower place (equal places count half).
     *
     * @param list<int>         $order
     * @param array<int, float> $outcome
     * @param list<int>         $places  from 1
     * @param array<int, float> $right
     * @param array<int, float> $differ
     */
    private static function count(array $order, array $outcome, array $places, int $most, array &$right, array &$differ): void
    {
        // Sums over places, in a tree of partial sums (Fenwick 1994).
        $sums = array_fill(0, $most + 1, 0);
        $at = array_fill(0, $most + 1, 0);
        $n = \count($order);
        for ($i = 0; $i < $n; $i = $j) {
            $v = $outcome[$order[$i]];
            for ($j = $i; $j < $n && $outcome[$order[$j]] === $v; ++$j) {
                $row = $order[$j];
                $lower = 0;
                for ($k = $places[$row] - 1; $k > 0; $k -= $k & -$k) {
                    $lower += $sums[$k];
                }
                $right[$row] += $lower + 0.5 * $at[$places[$row]];
                $differ[$row] += $i;
            }
            for ($j = $i; $j < $n && $outcome[$order[$j]] === $v; ++$j) {
                $place = $places[$order[$j]];
                ++$at[$place];
                for ($k = $place; $k <= $most; $k += $k & -$k) {
                    ++$sums[$k];
                }
            }
        }
    }
}
