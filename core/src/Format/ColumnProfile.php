<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Profile\LevelSummary;
use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Profile\Shape;
use Dokimos\Core\Profile\ValueCounts;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;

/** What the Register says of a column: how many cells are known, their summary, and their shape. */
final class ColumnProfile
{
    /** Values of a column that its summary names. */
    private const NAMED = 30;
    private const BLOCK = 65536;

    /**
     * What an encoder says of these cells, mostly without writing them as text once more.
     *
     * @return array{levels: list<string>, profile: array<string, mixed>}
     */
    public static function of(Column $cells): array
    {
        return match (true) {
            $cells instanceof NumberColumn => ['levels' => [], 'profile' => self::ofNumbers(Kind::Number, self::counted($cells->values), $cells->count())],
            $cells instanceof DateColumn => ['levels' => [], 'profile' => self::ofNumbers(Kind::Date, self::counted(array_map(
                static fn (int $s): float => DateColumn::MISSING === $s ? \NAN : (float) $s,
                $cells->seconds,
            )), $cells->count())],
            $cells instanceof CodedColumn => self::ofCodes($cells),
            default => self::encoded($cells),
        };
    }

    /** @param list<float> $values */
    private static function counted(array $values): ValueCounts
    {
        $counts = new ValueCounts();
        for ($from = 0, $rows = \count($values); $from < $rows; $from += self::BLOCK) {
            $counts->add(array_map(static fn (float $v): float => is_finite($v) ? $v : \NAN, \array_slice($values, $from, self::BLOCK)));
        }

        return $counts;
    }

    /** @return array{levels: list<string>, profile: array<string, mixed>} */
    private static function ofCodes(CodedColumn $cells): array
    {
        $times = [];
        foreach ($cells->codes as $code) {
            $times[$code] = ($times[$code] ?? 0) + 1;
        }
        // Levels in the order in which they come.
        $counts = $lengths = [];
        foreach ($times as $code => $count) {
            if ($code < 0) {
                continue;
            }
            $level = $cells->levels[$code];
            $counts[$level] = $count;
            $lengths[mb_strlen($level)] = ($lengths[mb_strlen($level)] ?? 0) + $count;
        }

        return [
            'levels' => array_map(strval(...), array_keys($counts)),
            'profile' => self::ofLevels($cells->kind(), $counts, $times[-1] ?? 0, $cells->count(), \count($counts), $lengths),
        ];
    }

    /** @return array{levels: list<string>, profile: array<string, mixed>} */
    private static function encoded(Column $cells): array
    {
        $encoder = new ColumnEncoder(new CellParser('.', ['']), $cells->kind());
        for ($from = 0, $rows = $cells->count(); $from < $rows; $from += FrameCodec::ROWS) {
            $block = [];
            for ($row = $from, $end = min($rows, $from + FrameCodec::ROWS); $row < $end; ++$row) {
                $block[] = $cells->text($row) ?? '';
            }
            $encoder->take($block);
            $encoder->frame();
        }
        $encoded = $encoder->finish();

        return ['levels' => $encoded->levels, 'profile' => $encoded->profile];
    }

    /** @return array<string, mixed> of numbers, or of dates in seconds */
    public static function ofNumbers(Kind $kind, ValueCounts $numbers, int $rows): array
    {
        [$values, $counts] = $numbers->sorted();
        $summary = NumberSummary::fromCounts($values, $counts, $numbers->missing);

        return [
            'kind' => $kind->value, 'missing' => $summary->missing, 'distinct' => $summary->distinct, 'rows' => $rows,
            'summary' => $summary->toArray(),
            'bins' => Kind::Date === $kind ? self::dateBins($values, $counts) : Shape::ofNumbers($values, $counts),
        ];
    }

    /**
     * @param array<array-key, int> $counts  per value that is counted
     * @param array<int, int>       $lengths length in letters => count
     *
     * @return array<string, mixed>
     */
    public static function ofLevels(Kind $kind, array $counts, int $missing, int $rows, int $distinct, array $lengths): array
    {
        ksort($lengths);

        return [
            'kind' => $kind->value, 'missing' => $missing, 'distinct' => $distinct, 'rows' => $rows,
            'summary' => ['n' => $rows - $missing, 'missing' => $missing, 'distinct' => $distinct]
                + LevelSummary::fromCounts($counts, $missing, self::NAMED)->toArray(),
            'bins' => $kind->isCoded() ? [] : Shape::ofNumbers(array_map(floatval(...), array_keys($lengths)), array_values($lengths), 16),
        ];
    }

    /**
     * @param list<float> $values
     * @param list<int>   $counts
     *
     * @return list<array{low: float, high: float, count: int}>
     */
    private static function dateBins(array $values, array $counts): array
    {
        if ([] === $values) {
            return [];
        }
        $days = array_map(static fn (float $s) => floor($s / DateColumn::DAY), $values);

        return array_map(
            static fn (array $b) => ['low' => $b['low'] * DateColumn::DAY, 'high' => $b['high'] * DateColumn::DAY, 'count' => $b['count']],
            Shape::ofNumbers($days, $counts),
        );
    }
}
