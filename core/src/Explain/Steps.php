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
    /**
     * @param list<int> $rows rows of the prepared table to take the spread from
     *
     * @return array<string, float> by the name of the term, for numbers and dates; 1 where there is no spread
     */
    public static function of(Coding $coding, Table $prepared, array $rows): array
    {
        $steps = [];
        foreach ($coding->terms as $term) {
            $column = $prepared->has($term->column) ? $prepared->column($term->column) : null;
            if ($term->name() === $term->column && ($column instanceof NumberColumn || $column instanceof DateColumn)) {
                $steps[$term->name()] = self::step(array_values(array_filter(Measured::of($column, $rows), is_finite(...))));
            }
        }

        return $steps;
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
