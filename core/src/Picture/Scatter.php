<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Profile\NumberSummary;

/** Two numbers: single points while they can be told apart, else how many lie in each part of a grid. */
final class Scatter
{
    public const MOST = 3000;
    private const ACROSS = 40;
    private const UP = 28;

    /**
     * @param list<float> $x
     * @param list<float> $y
     *
     * @return array{list<array<string, mixed>>, int} parts, and records where both are present
     */
    public static function parts(array $x, array $y, Told $told): array
    {
        $both = [];
        foreach ($x as $row => $v) {
            if ($v === $v && !is_nan($y[$row])) {
                $both[] = $row;
            }
        }
        if (\count($x) <= self::MOST) {
            return [array_map(static fn (int $row) => ['row' => $row, 'x' => $x[$row], 'y' => $y[$row], 'event' => $told->of($row)], $both), \count($both)];
        }
        if ([] === $both) {
            return [[], 0];
        }
        [$left, $width] = self::grid(array_map(static fn (int $row) => $x[$row], $both), self::ACROSS);
        [$bottom, $height] = self::grid(array_map(static fn (int $row) => $y[$row], $both), self::UP);
        $cells = [];
        foreach ($both as $row) {
            $i = max(-1, min(self::ACROSS, (int) floor(($x[$row] - $left) / $width)));
            $j = max(-1, min(self::UP, (int) floor(($y[$row] - $bottom) / $height)));
            $cells[$j * 1000 + $i][] = $row;
        }
        ksort($cells);
        $out = [];
        foreach ($cells as $rows) {
            $i = max(-1, min(self::ACROSS, (int) floor(($x[$rows[0]] - $left) / $width)));
            $j = max(-1, min(self::UP, (int) floor(($y[$rows[0]] - $bottom) / $height)));
            $xs = array_map(static fn (int $row) => $x[$row], $rows);
            $ys = array_map(static fn (int $row) => $y[$row], $rows);
            // The outermost parts hold all that lies beyond; they are drawn as wide as the others.
            $out[] = [
                'x' => $left + $i * $width, 'x2' => $left + ($i + 1) * $width, 'y' => $bottom + $j * $height, 'y2' => $bottom + ($j + 1) * $height,
                'fromX' => min($xs), 'toX' => max($xs), 'fromY' => min($ys), 'toY' => max($ys),
                'records' => \count($rows),
            ] + $told->share($rows);
        }

        return [$out, \count($both)];
    }

    /**
     * Where the grid begins and how wide a part is: over the middle 99.8 %, so that one far value does not press the rest together; whole
     * numbers get parts of whole width.
     *
     * @param list<float> $values
     *
     * @return array{float, float}
     */
    private static function grid(array $values, int $parts): array
    {
        sort($values, \SORT_NUMERIC);
        [$low, $high] = NumberSummary::quantiles($values, array_fill(0, \count($values), 1), \count($values), [0.001, 0.999]);
        $whole = [] === array_filter($values, static fn (float $v) => $v !== floor($v));
        if ($whole) {
            return [$low - 0.5, max(1.0, ceil(($high - $low + 1.0) / $parts))];
        }

        return [$low, $high > $low ? ($high - $low) / $parts : 1.0];
    }
}
