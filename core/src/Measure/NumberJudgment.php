<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

/** Where predicted numbers are off, for drawing. Definitions: docs/methods/number-figures.md. */
final class NumberJudgment
{
    private const TENTHS = 10;
    private const DOTS = 620;

    /**
     * How few rows hold half of all squared error, as a share of the rows: where these are few, RMSE is the figure of them.
     *
     * @param list<float> $errors
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
