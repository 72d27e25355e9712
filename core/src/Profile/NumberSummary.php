<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

/**
 * The figures of a number column. Definitions: docs/methods/summary.md.
 *
 * Built from the distinct values in ascending order with their counts, so that a column of a million cells with few distinct
 * values costs no more than those.
 */
final readonly class NumberSummary
{
    /**
     * @param array<string, int|float|null>         $figures
     * @param list<array{value: float, count: int}> $top
     */
    private function __construct(public int $n, public int $missing, public int $distinct, private array $figures, public array $top)
    {
    }

    /** @param list<float> $cells NAN = missing */
    public static function of(array $cells): self
    {
        $present = [];
        foreach ($cells as $v) {
            if ($v === $v) {
                $present[] = $v;
            }
        }
        sort($present);
        $values = $counts = [];
        $k = -1;
        foreach ($present as $v) {
            if ($k >= 0 && $values[$k] === $v) {
                ++$counts[$k];
            } else {
                $values[++$k] = $v;
                $counts[$k] = 1;
            }
        }

        return self::fromCounts(array_values($values), array_values($counts), \count($cells) - \count($present));
    }

    /**
     * @param list<float> $values distinct, ascending
     * @param list<int>   $counts
     */
    public static function fromCounts(array $values, array $counts, int $missing): self
    {
        $n = array_sum($counts);
        if (0 === $n) {
            return new self(0, $missing, 0, [], []);
        }
        $sum = self::sum($values, $counts);
        $mean = is_finite($sum) ? $sum / $n : self::sum(array_map(static fn (float $v) => $v / $n, $values), $counts);
        if (is_finite($sum)) {
            // A second pass on the remainders takes out what rounding left in the mean.
            $mean += self::sum(array_map(static fn (float $v) => $v - $mean, $values), $counts) / $n;
        }
        $unit = self::unit($values, $mean);
        [$m2, $m3, $m4] = self::moments($values, $counts, $mean, $unit);
        $sd = $n > 1 ? $unit * sqrt($m2 / ($n - 1)) : null;
        $variance = $n > 1 ? $m2 / ($n - 1) * $unit * $unit : null;
        $m2 /= $n;
        $g1 = $m2 > 0 ? $m3 / $n / $m2 ** 1.5 : null;
        $g2 = $m2 > 0 ? $m4 / $n / ($m2 * $m2) - 3 : null;
        $quantiles = self::quantiles($values, $counts, $n, [0.05, 0.25, 0.5, 0.75, 0.95]);
        $iqr = $quantiles[3] - $quantiles[1];
        $outside = static function (float $width) use ($values, $counts, $quantiles, $iqr): array {
            $low = $high = 0;
            foreach ($values as $i => $v) {
                $low += $v < $quantiles[1] - $width * $iqr ? $counts[$i] : 0;
                $high += $v > $quantiles[3] + $width * $iqr ? $counts[$i] : 0;
            }

            return [$low, $high];
        };
        [$outliersLow, $outliersHigh] = $outside(1.5);
        [$extremesLow, $extremesHigh] = $outside(3.0);
        $mad = self::mad($values, $counts, $n, $quantiles[2]);
        $top = self::top($values, $counts);
        $figures = [
            'sum' => $sum, 'mean' => $mean, 'sd' => $sd, 'variance' => $variance,
            'min' => $values[0], 'q1' => $quantiles[1], 'median' => $quantiles[2], 'q3' => $quantiles[3], 'max' => $values[\count($values) - 1],
            'p05' => $quantiles[0], 'p95' => $quantiles[4],
            'zeros' => self::countWhere($values, $counts, static fn (float $v) => 0.0 === $v),
            'negatives' => self::countWhere($values, $counts, static fn (float $v) => $v < 0),
            'skewness_g1' => $g1,
            'skewness_G1' => null !== $g1 && $n > 2 ? $g1 * sqrt($n * ($n - 1.0)) / ($n - 2) : null,
            'excess_kurtosis_g2' => $g2,
            'excess_kurtosis_G2' => null !== $g2 && $n > 3 ? ($n - 1) / (($n - 2.0) * ($n - 3)) * (($n + 1) * $g2 + 6) : null,
            'mode' => $top[0]['value'],
            'iqr' => $iqr, 'fence_low' => $quantiles[1] - 1.5 * $iqr, 'fence_high' => $quantiles[3] + 1.5 * $iqr,
            'outliers_low' => $outliersLow, 'outliers_high' => $outliersHigh, 'extremes_low' => $extremesLow, 'extremes_high' => $extremesHigh,
            'mad_raw' => $mad,
            'robust_z_over_3_5' => $mad > 0 ? self::countWhere($values, $counts, static fn (float $v) => abs($v - $quantiles[2]) / (1.482602218505602 * $mad) > 3.5) : null,
        ];

        // What is beyond the largest number there is has no figure.
        return new self($n, $missing, \count($values), array_map(static fn (int|float|null $f): int|float|null => \is_float($f) && !is_finite($f) ? null : $f, $figures), $top);
    }

    /** A figure by its name in docs/methods/summary.md; null when not defined. */
    public function figure(string $name): int|float|null
    {
        return $this->figures[$name] ?? null;
    }

    /** (x - median) / (1.4826 MAD); null when missing or when the MAD is 0. */
    public function robustZ(float $x): ?float
    {
        $mad = (float) ($this->figures['mad_raw'] ?? 0.0);

        return is_nan($x) || 0.0 === $mad ? null : ($x - (float) $this->figures['median']) / (1.482602218505602 * $mad);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $head = ['type' => 'numeric', 'n' => $this->n, 'missing' => $this->missing, 'distinct' => $this->distinct];

        return 0 === $this->n ? $head : $head + $this->figures + ['top' => $this->top];
    }

    /**
     * Neumaier's compensated sum of value times count.
     *
     * @param list<float> $values
     * @param list<int>   $counts
     */
    private static function sum(array $values, array $counts): float
    {
        $sum = $lost = 0.0;
        foreach ($values as $i => $v) {
            $term = $v * $counts[$i];
            $next = $sum + $term;
            $lost += abs($sum) >= abs($term) ? ($sum - $next) + $term : ($term - $next) + $sum;
            $sum = $next;
        }

        return $sum + $lost;
    }

    /**
     * What deviations are counted in: 1, unless their fourth powers would leave what a double holds.
     *
     * @param list<float> $values ascending
     */
    private static function unit(array $values, float $mean): float
    {
        $largest = max(abs($values[0] / 2 - $mean / 2), abs($values[\count($values) - 1] / 2 - $mean / 2));

        return $largest > 1e70 || ($largest > 0.0 && $largest < 1e-70) ? $largest : 1.0;
    }

    /**
     * @param list<float> $values
     * @param list<int>   $counts
     *
     * @return array{float, float, float} sums of the second, third and fourth powers of the deviations in units
     */
    private static function moments(array $values, array $counts, float $mean, float $unit): array
    {
        $m2 = $m3 = $m4 = 0.0;
        foreach ($values as $i => $v) {
            $d = 1.0 === $unit ? $v - $mean : $v / $unit - $mean / $unit;
            $square = $d * $d * $counts[$i];
            $m2 += $square;
            $m3 += $square * $d;
            $m4 += $square * $d * $d;
        }

        return [$m2, $m3, $m4];
    }

    /**
     * Type 7: h = (n - 1) p, between the neighbors in proportion.
     *
     * @param list<float> $values
     * @param list<int>   $counts
     * @param list<float> $shares ascending
     *
     * @return list<float>
     */
    public static function quantiles(array $values, array $counts, int $n, array $shares): array
    {
        $out = [];
        $i = 0;
        $upTo = $counts[0];
        foreach ($shares as $p) {
            $h = ($n - 1) * $p;
            $j = (int) floor($h);
            while ($upTo <= $j) {
                $upTo += $counts[++$i];
            }
            $low = $values[$i];
            $high = $j + 1 < $n && $upTo <= $j + 1 ? $values[$i + 1] : $low;
            $apart = $high - $low;
            $out[] = is_finite($apart) ? $low + ($h - $j) * $apart : (1 - $h + $j) * $low + ($h - $j) * $high;
        }

        return $out;
    }

    /**
     * @param list<float> $values
     * @param list<int>   $counts
     */
    private static function mad(array $values, array $counts, int $n, float $median): float
    {
        // Going out from the median, the distances below and above it are two ascending runs: merge them.
        $d = $c = [];
        $last = \count($values);
        for ($up = 0; $up < $last && $values[$up] < $median; ++$up) {
        }
        $down = $up - 1;
        while ($down >= 0 || $up < $last) {
            $i = $up >= $last || $down >= 0 && $median - $values[$down] <= $values[$up] - $median ? $down-- : $up++;
            $d[] = abs($values[$i] - $median);
            $c[] = $counts[$i];
        }

        return self::quantiles($d, $c, $n, [0.5])[0];
    }

    /**
     * @param list<float> $values
     * @param list<int>   $counts
     *
     * @return non-empty-list<array{value: float, count: int}>
     */
    private static function top(array $values, array $counts): array
    {
        $best = [];
        $floor = 0;
        foreach ($counts as $i => $count) {
            if ($count > $floor || \count($best) < 5) {
                $best[$i] = $count;
                if (\count($best) > 5) {
                    // Of equal counts the largest value goes: it was put in last.
                    $lowest = min($best);
                    krsort($best);
                    unset($best[array_search($lowest, $best, true)]);
                }
                $floor = \count($best) < 5 ? 0 : min($best);
            }
        }
        uksort($best, static fn (int $a, int $b) => [$best[$b], $a] <=> [$best[$a], $b]);
        $top = [];
        foreach ($best as $i => $count) {
            $top[] = ['value' => $values[$i], 'count' => $count];
        }
        \assert([] !== $top);

        return $top;
    }

    /**
     * @param list<float>           $values
     * @param list<int>             $counts
     * @param \Closure(float): bool $where
     */
    private static function countWhere(array $values, array $counts, \Closure $where): int
    {
        $sum = 0;
        foreach ($values as $i => $v) {
            $sum += $where($v) ? $counts[$i] : 0;
        }

        return $sum;
    }
}
