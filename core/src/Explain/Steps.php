<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Measured;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * What the effect of a term of a regression is told for: so many units more of a number or days of a date, or a value in place of another.
 * A step is the round number (1, 2 or 5 times a power of ten) nearest to the standard deviation; of whole numbers at least one.
 */
final class Steps
{
    /** Rounding of a rescaled value, relative. */
    private const CLOSE = 1e-9;

    /**
     * @param list<int> $rows rows to take the spread from
     * @param Table     $raw  the same rows before they were prepared
     *
     * @return array<string, Step> by the name of the term, for numbers and dates
     */
    public static function of(Coding $coding, Table $prepared, array $rows, Table $raw): array
    {
        $steps = [];
        foreach ($coding->terms as $term) {
            $column = $prepared->has($term->column) ? $prepared->column($term->column) : null;
            $isStraight = $term->name() === $term->column && !isset($coding->bends[$term->column]);
            if ($isStraight && ($column instanceof NumberColumn || $column instanceof DateColumn)) {
                $before = $raw->rows === $prepared->rows && $raw->has($term->column) ? $raw->column($term->column) : null;
                $steps[$term->name()] = $column instanceof NumberColumn && $before instanceof NumberColumn
                    ? self::ofNumber(Measured::of($column, $rows), Measured::of($before, $rows))
                    : Step::plain(self::step(array_values(array_filter(Measured::of($column, $rows), is_finite(...)))));
            }
        }

        return $steps;
    }

    /**
     * A column that was shifted or rescaled is told in its own units; one that was changed in another way, as it was prepared.
     *
     * @param list<float> $now
     * @param list<float> $before
     */
    private static function ofNumber(array $now, array $before): Step
    {
        $pairs = [];
        foreach ($now as $i => $v) {
            if (is_finite($v) && is_finite($before[$i])) {
                $pairs[] = [$before[$i], $v];
            }
        }
        $step = self::step(array_values(array_filter($now, is_finite(...))));
        $same = \count(array_filter($pairs, static fn (array $p): bool => $p[0] === $p[1]));
        if ([] === $pairs || 2 * $same >= \count($pairs)) {
            return Step::plain($step);
        }
        $raw = array_column($pairs, 0);
        [$low, $high] = [$pairs[(int) array_search(min($raw), $raw, true)], $pairs[(int) array_search(max($raw), $raw, true)]];
        $slope = $high[0] > $low[0] ? ($high[1] - $low[1]) / ($high[0] - $low[0]) : 0.0;
        foreach ($pairs as [$x, $y]) {
            if (!($slope > 0.0) || abs($low[1] + $slope * ($x - $low[0]) - $y) > self::CLOSE * max(abs($low[1]), abs($high[1]))) {
                return new Step($step, $step, true);
            }
        }
        $told = self::step($raw);

        return new Step($told * $slope, $told, false);
    }

    /** @return array<string, string> the value each "is this value" is told against; none where there is not one such value */
    public static function against(Coding $coding): array
    {
        $known = [];
        foreach ($coding->terms as $term) {
            if (null !== $term->level || $term->others) {
                $known[$term->column][] = $term->onward || $term->others ? null : $term->level;
            }
        }
        $against = [];
        foreach ($coding->terms as $term) {
            $other = array_values(array_diff($coding->levels[$term->column] ?? [], $known[$term->column] ?? []));
            if (null !== $term->level && 1 === \count($other) && !\in_array(null, $known[$term->column], true)) {
                $against[$term->name()] = $other[0];
            }
        }

        return $against;
    }

    /** @param list<float> $values */
    private static function step(array $values): float
    {
        $n = \count($values);
        $scale = max([0.0, ...array_map(abs(...), $values)]);
        if ($n < 2 || 0.0 === $scale) {
            return 1.0;
        }
        $mean = $sum = 0.0;
        foreach ($values as $v) {
            $mean += $v / $scale / $n;
        }
        $whole = true;
        foreach ($values as $v) {
            $sum += ($v / $scale - $mean) ** 2;
            $whole = $whole && floor($v) === $v;
        }
        $spread = $scale * sqrt($sum / ($n - 1));

        return $spread > 0.0 && is_finite($spread) ? self::round($whole ? max(1.0, $spread) : $spread) : 1.0;
    }

    /** The nearest of 1, 2 and 5 times a power of ten, by ratio. */
    private static function round(float $x): float
    {
        $power = 10.0 ** floor(log10($x));
        $best = $power;
        foreach ([2.0, 5.0, 10.0] as $m) {
            $best = abs(log($m * $power / $x)) < abs(log($best / $x)) ? $m * $power : $best;
        }

        return $best;
    }
}
