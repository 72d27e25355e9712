<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

use Dokimos\Core\Math\Distribution\Normal;

/** How far predicted numbers are off, each figure with its interval, and where. Definitions: docs/methods/number-figures.md, intervals.md. */
final class NumberJudgment
{
    private const TENTHS = 10;
    private const DOTS = 620;

    /**
     * @param non-empty-list<float> $actual
     * @param non-empty-list<float> $predicted
     *
     * @return array{rmse: Interval, mae: Interval, within50: Interval, within90: Interval, r2: Interval, bias: Interval}
     */
    public static function figures(array $actual, array $predicted): array
    {
        $n = \count($actual);
        $squares = $sizes = $errors = [];
        foreach ($actual as $i => $a) {
            $errors[] = $e = $predicted[$i] - $a;
            $squares[] = $e * $e;
            $sizes[] = abs($e);
        }
        sort($sizes);

        return [
            'rmse' => self::rootOf($squares),
            'mae' => Interval::mean($sizes),
            'within50' => self::quantile($sizes, 0.5),
            'within90' => self::quantile($sizes, 0.9),
            'r2' => self::explained($actual, $squares, $n),
            'bias' => Interval::mean($errors),
        ];
    }

    /**
     * Half of the logarithm of the mean of squares, by the bootstrap-t.
     *
     * @param non-empty-list<float> $squares
     */
    private static function rootOf(array $squares): Interval
    {
        $value = sqrt(array_sum($squares) / \count($squares));
        $ends = LogRatio::of($squares);

        return null === $ends ? new Interval($value, 0.0 === $value && \count($squares) > 1 ? 0.0 : null, 0.0 === $value && \count($squares) > 1 ? 0.0 : null) : new Interval($value, exp(0.5 * $ends[1]), exp(0.5 * $ends[2]));
    }

    /**
     * How few rows hold half of all squared error, as a share of the rows: where these are few, RMSE is the figure of them.
     *
     * @param non-empty-list<float> $errors
     */
    public static function governing(array $errors): float
    {
        $squares = array_map(static fn (float $e): float => $e * $e, $errors);
        rsort($squares);
        $half = 0.5 * array_sum($squares);
        $sum = 0.0;
        foreach ($squares as $i => $s) {
            $sum += $s;
            if ($sum >= $half) {
                return ($i + 1) / \count($squares);
            }
        }

        return 1.0;
    }

    /** On the scale of logarithms the interval of a mean of squares is even; half of it is that of the root. */
    public static function root(Interval $square): Interval
    {
        $value = sqrt(max(0.0, (float) $square->value));
        if (null === $square->high || 0.0 === $value) {
            return new Interval($value, null === $square->high ? null : $value, null === $square->high ? null : $value);
        }
        $factor = exp(0.5 * ($square->high / $square->value - 1));

        return new Interval($value, $value / $factor, $value * $factor);
    }

    /**
     * A quantile with the interval of order statistics (Conover 1999, section 3.2).
     *
     * @param list<float> $sorted
     */
    private static function quantile(array $sorted, float $at): Interval
    {
        $n = \count($sorted);
        $half = Normal::Z95 * sqrt($n * $at * (1 - $at));
        $place = static fn (float $k): int => (int) max(0, min($n - 1, $k));

        return new Interval($sorted[$place(ceil($n * $at) - 1)], $sorted[$place(floor($n * $at - $half) - 1)], $sorted[$place(ceil($n * $at + $half) - 1)]);
    }

    /**
     * R² = 1 − mse / variance, with the bootstrap-t of the logarithm of the ratio.
     *
     * @param list<float> $actual
     * @param list<float> $squares
     */
    private static function explained(array $actual, array $squares, int $n): Interval
    {
        $mean = array_sum($actual) / $n;
        $around = array_map(static fn (float $a): float => ($a - $mean) ** 2, $actual);
        $variance = array_sum($around) / $n;
        if ($variance <= 0.0) {
            return new Interval(null);
        }
        $ratio = array_sum($squares) / $n / $variance;
        /** @var non-empty-list<float> $squares */
        $ends = LogRatio::of($squares, $around);

        return null === $ends ? new Interval(1 - $ratio, 0.0 === $ratio ? 1.0 : null, 0.0 === $ratio ? 1.0 : null) : new Interval(1 - $ratio, 1 - exp($ends[2]), 1 - exp($ends[1]));
    }

    /**
     * Rows in tenths of what was predicted: what came, and how far off.
     *
     * @param list<float> $actual
     * @param list<float> $predicted
     *
     * @return list<array{predicted: float, low: float, middle: float, high: float, off: float, offLow: float, offQuarter: float, offThreeQuarters: float, offHigh: float, rows: int}> low, middle, high: tenth, half and nine tenths of the actual values; off: actual less predicted, mean, 5th, 25th, 75th, 95th hundredth
     */
    public static function tenths(array $actual, array $predicted): array
    {
        asort($predicted);
        $order = array_keys($predicted);
        $n = \count($order);
        $out = [];
        for ($t = 0; $t < self::TENTHS; ++$t) {
            $rows = \array_slice($order, intdiv($t * $n, self::TENTHS), intdiv(($t + 1) * $n, self::TENTHS) - intdiv($t * $n, self::TENTHS));
            if ([] === $rows) {
                continue;
            }
            $said = $took = $off = [];
            foreach ($rows as $row) {
                $said[] = $predicted[$row];
                $took[] = $actual[$row];
                $off[] = $actual[$row] - $predicted[$row];
            }
            sort($took);
            sort($off);
            $at = static function (array $sorted, float $q): float {
                /** @var list<float> $sorted */
                return $sorted[(int) min(\count($sorted) - 1, floor($q * \count($sorted)))];
            };
            $out[] = ['predicted' => array_sum($said) / \count($said), 'low' => $at($took, 0.1), 'middle' => $at($took, 0.5), 'high' => $at($took, 0.9), 'off' => array_sum($off) / \count($off), 'offLow' => $at($off, 0.05), 'offQuarter' => $at($off, 0.25), 'offThreeQuarters' => $at($off, 0.75), 'offHigh' => $at($off, 0.95), 'rows' => \count($rows)];
        }

        return $out;
    }

    /**
     * Enough rows to see the cloud, taken evenly.
     *
     * @param list<float> $actual
     * @param list<float> $predicted
     *
     * @return list<array{float, float}> predicted, actual
     */
    public static function dots(array $actual, array $predicted): array
    {
        $out = [];
        $step = max(1.0, \count($actual) / self::DOTS);
        for ($i = 0.0; \count($out) < self::DOTS && $i < \count($actual); $i += $step) {
            $out[] = [$predicted[(int) $i], $actual[(int) $i]];
        }

        return $out;
    }
}
