<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/** A column over time: the mean of a number, or the share of each frequent value, by day, week, month, quarter or year. */
final class OverTime
{
    private const MOST_PERIODS = 40;
    private const MOST_VALUES = 6;

    /**
     * @return array{list<array<string, mixed>>, int} period by period; for a category one part per period and value
     */
    public static function parts(DateColumn $when, Column $what, Told $told): array
    {
        $present = [];
        foreach ($when->seconds as $row => $s) {
            if (DateColumn::MISSING !== $s && !$what->isMissing($row)) {
                $present[$row] = $s;
            }
        }
        if ([] === $present) {
            return [[], 0];
        }
        $period = self::period(min($present), max($present));
        $rows = [];
        foreach ($present as $row => $s) {
            $rows[self::start($s, $period)][] = $row;
        }
        ksort($rows);
        $values = $what instanceof CodedColumn ? self::frequent($what, array_keys($present)) : [];
        $out = [];
        foreach ($rows as $start => $in) {
            $head = ['from' => DateColumn::write($start), 'to' => DateColumn::write(self::next($start, $period) - DateColumn::DAY), 'period' => $period, 'records' => \count($in)];
            if ($what instanceof NumberColumn) {
                $mean = Interval::mean(array_map(static fn (int $row) => $what->values[$row], $in));
                $out[] = $head + ['of' => null, 'value' => $mean->value, 'valueLow' => $mean->low, 'valueHigh' => $mean->high] + $told->share($in);
            } elseif ($what instanceof CodedColumn) {
                foreach ($values as $code) {
                    $hits = array_values(array_filter($in, static fn (int $row) => $what->codes[$row] === $code));
                    $share = Interval::wilson(\count($hits), \count($in));
                    $out[] = $head + ['of' => $what->levels[$code], 'value' => $share->value, 'valueLow' => $share->low, 'valueHigh' => $share->high] + $told->share($hits);
                }
            } else {
                $out[] = $head + ['of' => null, 'value' => (float) \count($in), 'valueLow' => null, 'valueHigh' => null] + $told->share($in);
            }
        }

        return [$out, \count($present)];
    }

    /**
     * @param list<int> $rows
     *
     * @return list<int> codes
     */
    private static function frequent(CodedColumn $what, array $rows): array
    {
        $counts = $what->counts($rows);
        arsort($counts);
        $codes = \array_slice(array_keys(array_filter($counts)), 0, self::MOST_VALUES);

        // Of yes and no one line says both.
        return 2 === \count(array_filter($counts)) ? [true === CellParser::yesNo($what->levels[$codes[0]]) ? $codes[0] : $codes[1]] : $codes;
    }

    private static function period(int $first, int $last): string
    {
        $days = ($last - $first) / DateColumn::DAY;
        foreach (['day' => 1.0, 'week' => 7.0, 'month' => 30.4, 'quarter' => 91.3] as $name => $length) {
            if ($days / $length <= self::MOST_PERIODS) {
                return $name;
            }
        }

        return 'year';
    }

    private static function start(int $s, string $period): int
    {
        $day = $s - (($s % DateColumn::DAY) + DateColumn::DAY) % DateColumn::DAY;
        if ('day' === $period) {
            return $day;
        }
        if ('week' === $period) {
            return $day - ((int) gmdate('N', $day) - 1) * DateColumn::DAY;
        }
        $month = (int) gmdate('n', $day);

        return (int) gmmktime(0, 0, 0, 'month' === $period ? $month : ('quarter' === $period ? $month - ($month - 1) % 3 : 1), 1, (int) gmdate('Y', $day));
    }

    private static function next(int $start, string $period): int
    {
        return match ($period) {
            'day' => $start + DateColumn::DAY,
            'week' => $start + 7 * DateColumn::DAY,
            default => (int) gmmktime(0, 0, 0, (int) gmdate('n', $start) + ['month' => 1, 'quarter' => 3, 'year' => 12][$period], 1, (int) gmdate('Y', $start)),
        };
    }
}
