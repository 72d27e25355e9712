<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/** Cells of a column as a regression measures them: numbers as they are, dates as days; what overflowed is missing. */
final class Measured
{
    /** What overflowed while it was read is no number to add up. */
    public static function isKnown(Column $column, int $row): bool
    {
        return $column instanceof NumberColumn ? is_finite($column->values[$row]) : !$column->isMissing($row);
    }

    /** @param list<int> $rows */
    public static function lacks(Column $column, array $rows): bool
    {
        foreach ($rows as $row) {
            if (!self::isKnown($column, $row)) {
                return true;
            }
        }

        return false;
    }

    /**
     * The mean of the values there are, in the unit of the matrix; null when there are none.
     *
     * @param list<int> $rows
     */
    public static function mean(NumberColumn|DateColumn $column, array $rows): ?float
    {
        $values = self::of($column, $rows);
        $sum = 0.0;
        $count = 0;
        foreach ($values as $v) {
            if (is_finite($v)) {
                // Step by step, since the sum of very large numbers may be no number.
                $sum += ($v - $sum) / ++$count;
            }
        }

        return $count > 0 ? $sum : null;
    }

    /**
     * @param list<int> $rows
     *
     * @return list<float> numbers as they are, dates as days since 1970; NAN = missing
     */
    public static function of(NumberColumn|DateColumn $column, array $rows): array
    {
        $out = [];
        if ($column instanceof NumberColumn) {
            $values = $column->values;
            foreach ($rows as $row) {
                $out[] = $values[$row];
            }

            return $out;
        }
        $seconds = $column->seconds;
        foreach ($rows as $row) {
            $out[] = DateColumn::MISSING === $seconds[$row] ? \NAN : (float) ($seconds[$row] / DateColumn::DAY);
        }

        return $out;
    }

    /** @param list<int> $rows */
    public static function isConstant(NumberColumn|DateColumn $column, array $rows): bool
    {
        $values = $column instanceof NumberColumn ? $column->values : $column->seconds;
        $first = null;
        foreach ($rows as $row) {
            if ($column->isMissing($row)) {
                continue;
            }
            $first ??= $values[$row];
            if ($values[$row] !== $first) {
                return false;
            }
        }

        return true;
    }
}
