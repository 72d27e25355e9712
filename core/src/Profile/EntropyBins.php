<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

/**
 * Cut points that tell the classes of a target apart: the cut of least entropy, taken as long as it gains more than it costs to describe
 * it (Fayyad and Irani 1993, minimum description length). A bin is (a, b]. Formula: docs/methods/preparation.md.
 */
final class EntropyBins
{
    /**
     * Cuts in rising order; the trace tells each that was weighed, accepted or not.
     *
     * @param list<float> $values NAN = missing
     * @param list<int>   $target codes, -1 = missing
     *
     * @return array{n: int, cuts: list<float>, trace: list<array{from: float, to: float, n: int, cut: float, gain: float, threshold: float, accepted: bool}>}
     */
    public static function of(array $values, array $target): array
    {
        $present = [];
        foreach ($values as $i => $v) {
            if ($v === $v && $target[$i] >= 0) {
                $present[$i] = $v;
            }
        }
        asort($present, \SORT_NUMERIC);
        // Rows of one value are never parted: they are counted once, by class.
        $distinct = $counts = [];
        $last = -1;
        foreach ($present as $i => $v) {
            if ($last < 0 || $distinct[$last] !== $v) {
                $distinct[++$last] = $v;
                $counts[$last] = [];
            }
            $counts[$last][$target[$i]] = ($counts[$last][$target[$i]] ?? 0) + 1;
        }
        $cuts = $trace = [];
        self::part(array_values($distinct), $counts, 0, $last, $cuts, $trace);
        sort($cuts, \SORT_NUMERIC);

        return ['n' => \count($present), 'cuts' => $cuts, 'trace' => $trace];
    }

    /**
     * @param list<float>                                                                                            $distinct ascending
     * @param array<int, array<int, int>>                                                                            $counts   by class, of each distinct value
     * @param list<float>                                                                                            $cuts
     * @param list<array{from: float, to: float, n: int, cut: float, gain: float, threshold: float, accepted: bool}> $trace
     */
    private static function part(array $distinct, array $counts, int $from, int $to, array &$cuts, array &$trace): void
    {
        if ($from >= $to) {
            return;
        }
        $right = [];
        for ($i = $from; $i <= $to; ++$i) {
            foreach ($counts[$i] as $class => $n) {
                $right[$class] = ($right[$class] ?? 0) + $n;
            }
        }
        ksort($right);
        $n = array_sum($right);
        $whole = self::entropy($right, $n);
        $classes = \count($right);
        $left = [];
        $l = 0;
        $best = null;
        for ($i = $from; $i < $to; ++$i) {
            foreach ($counts[$i] as $class => $c) {
                $left[$class] = ($left[$class] ?? 0) + $c;
                $right[$class] -= $c;
                $l += $c;
            }
            [$e1, $e2] = [self::entropy($left, $l), self::entropy($right, $n - $l)];
            $weighted = ($l * $e1 + ($n - $l) * $e2) / $n;
            if (null === $best || $weighted < $best['weighted'] - 1e-13) {
                $best = ['weighted' => $weighted, 'at' => $i, 'e1' => $e1, 'e2' => $e2, 'k1' => \count(array_filter($left)), 'k2' => \count(array_filter($right))];
            }
        }
        \assert(null !== $best);
        $cut = ($distinct[$best['at']] + $distinct[$best['at'] + 1]) / 2;
        $gain = $whole - $best['weighted'];
        $delta = log(3 ** $classes - 2, 2) - ($classes * $whole - $best['k1'] * $best['e1'] - $best['k2'] * $best['e2']);
        $threshold = (log($n - 1, 2) + $delta) / $n;
        $accepted = $gain > $threshold;
        $trace[] = ['from' => $distinct[$from], 'to' => $distinct[$to], 'n' => $n, 'cut' => $cut, 'gain' => $gain, 'threshold' => $threshold, 'accepted' => $accepted];
        if ($accepted) {
            $cuts[] = $cut;
            self::part($distinct, $counts, $from, $best['at'], $cuts, $trace);
            self::part($distinct, $counts, $best['at'] + 1, $to, $cuts, $trace);
        }
    }

    /** @param array<int, int> $counts */
    private static function entropy(array $counts, int $n): float
    {
        $sum = 0.0;
        foreach ($counts as $count) {
            if ($count > 0) {
                $sum -= $count / $n * log($count / $n, 2);
            }
        }

        return $sum;
    }
}
