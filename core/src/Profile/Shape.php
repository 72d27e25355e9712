<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

/** A small distribution: counts in bins with round edges; the outer bins hold everything beyond them. */
final class Shape
{
    /**
     * @param list<float> $values distinct, ascending
     * @param list<int>   $counts
     *
     * @return list<array{low: float, high: float, count: int}> bins in rising order; the outer ones hold everything beyond them
     */
    public static function ofNumbers(array $values, array $counts, int $most = 24): array
    {
        if ([] === $values) {
            return [];
        }
        if (max(abs($values[0]), abs($values[\count($values) - 1])) > 1e300) {
            // Widths and round edges have to stay within what a double holds.
            return array_map(static fn (array $b): array => ['low' => max(-\PHP_FLOAT_MAX, min(\PHP_FLOAT_MAX, $b['low'] * 1e20)), 'high' => max(-\PHP_FLOAT_MAX, min(\PHP_FLOAT_MAX, $b['high'] * 1e20)), 'count' => $b['count']], self::ofNumbers(array_map(static fn (float $v): float => $v / 1e20, $values), $counts, $most));
        }
        $n = array_sum($counts);
        // A single far outlier would press all other cells into one bin.
        [$low, $high] = NumberSummary::quantiles($values, $counts, $n, [0.005, 0.995]);
        if ($low === $high) {
            [$low, $high] = [$values[0], $values[\count($values) - 1]];
        }
        if ($low === $high) {
            return [['low' => $low, 'high' => $high, 'count' => $n]];
        }
        $whole = true;
        foreach ($values as $v) {
            if ($v !== floor($v)) {
                $whole = false;
                break;
            }
        }
        $step = self::roundStep(($high - $low) / $most, $whole);
        $first = floor($low / $step) * $step;
        $bins = max(1, (int) floor(($high - $first) / $step) + 1);
        $totals = array_fill(0, $bins, 0);
        foreach ($values as $i => $v) {
            $totals[max(0, min($bins - 1, (int) floor(($v - $first) / $step)))] += $counts[$i];
        }
        $out = [];
        foreach ($totals as $b => $count) {
            $out[] = ['low' => round($first + $b * $step, 10), 'high' => round($first + ($b + 1) * $step, 10), 'count' => $count];
        }

        return $out;
    }

    private static function roundStep(float $width, bool $whole): float
    {
        $power = 10.0 ** floor(log10($width));
        foreach ([1.0, 2.0, 2.5, 5.0, 10.0] as $factor) {
            $step = $factor * $power;
            if ($step >= $width && (!$whole || $step >= 1.0 && $step === floor($step))) {
                return $step;
            }
        }

        return $whole ? max(1.0, ceil($width)) : 10.0 * $power;
    }
}
