<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** Records that are equal in some columns: all of them (full), or chosen ones (near). */
final readonly class Repeats
{
    private const MOST_GROUPS = 50;
    private const MOST_ROWS = 40;

    /**
     * @param list<string>                                                         $columns  in which the records are equal
     * @param int                                                                  $groups   how often the same occurs more than once
     * @param int                                                                  $repeated records that have an equal one
     * @param int                                                                  $more     records that would go if one of each group stayed
     * @param list<array{times: int, groups: int}>                                 $sizes    how many groups of how many equal records, from small to large
     * @param list<array{records: int, rows: list<int>, cells: list<string|null>}> $examples the largest groups first, with their rows and what they share
     */
    private function __construct(public array $columns, public int $records, public int $groups, public int $repeated, public int $more, public array $sizes, public array $examples)
    {
    }

    /**
     * Of a table that comes part by part: of each record a number of 64 bits is held and nothing else. Two different ones that agree in it
     * are not to be expected (one pair in ten million records with a chance of three in a million). Records in which every chosen cell is
     * missing are not called equal.
     *
     * @param iterable<Table>              $parts   one after the other
     * @param list<string>                 $columns
     * @param \Closure(int): list<?string> $cells   of a record, by its row
     */
    public static function among(iterable $parts, array $columns, \Closure $cells): self
    {
        $marks = [];
        foreach ([] === $columns ? [] : $parts as $part) {
            foreach (self::marks(array_map($part->column(...), $columns), $part->rows) as $mark) {
                $marks[] = $mark;
            }
        }
        [$sizes, $times, $repeated, $groups] = self::counted($marks);
        $examples = [];
        foreach (self::largest($marks, $times) as [$records, $rows]) {
            $examples[] = ['records' => $records, 'rows' => $rows, 'cells' => $cells($rows[0])];
        }

        return new self($columns, \count($marks), $groups, $repeated, $repeated - $groups, $sizes, $examples);
    }

    /**
     * @param list<Column> $columns
     *
     * @return list<?int> per row what its cells come to; null where all are missing
     */
    private static function marks(array $columns, int $rows): array
    {
        $keys = array_fill(0, $rows, '');
        $known = array_fill(0, $rows, false);
        foreach ($columns as $column) {
            foreach (self::bytes($column) as $row => $bytes) {
                $known[$row] = $known[$row] || null !== $bytes;
                // What is missing is shorter than any cell.
                $keys[$row] .= $bytes ?? "\0";
            }
        }
        $marks = [];
        foreach ($keys as $row => $key) {
            $marks[] = $known[$row] ? unpack('q', hash('xxh3', $key, true))[1] ?? null : null;
        }

        /** @var list<?int> $marks */
        return $marks;
    }

    /** @return list<?string> per row the cell, so that where it ends is known; null = missing */
    private static function bytes(Column $column): array
    {
        if ($column instanceof NumberColumn) {
            // 0 and -0 are the same number.
            return array_map(static fn (float $v): ?string => is_nan($v) ? null : "\1".pack('e', $v + 0.0), $column->values);
        }
        if ($column instanceof DateColumn) {
            return array_map(static fn (int $s): ?string => DateColumn::MISSING === $s ? null : "\1".pack('P', $s), $column->seconds);
        }
        if ($column instanceof CodedColumn) {
            return array_map(static fn (int $code): ?string => $code < 0 ? null : "\1".pack('V', $code), $column->codes);
        }
        $out = [];
        for ($row = 0, $rows = $column->count(); $row < $rows; ++$row) {
            $text = $column->text($row);
            $out[] = null === $text ? null : "\1".pack('V', \strlen($text)).$text;
        }

        return $out;
    }

    /**
     * @param list<?int> $marks
     *
     * @return array{list<array{times: int, groups: int}>, array<int, int>, int, int} how many groups there are of each size, how often each
     *                                                                                mark occurs among the largest, records, and groups
     */
    private static function counted(array $marks): array
    {
        $sorted = [];
        foreach ($marks as $mark) {
            if (null !== $mark) {
                $sorted[] = $mark;
            }
        }
        sort($sorted);
        $sizes = [];
        $groups = $repeated = 0;
        // Twice: how many groups there are of each size, then which are as large as the last that is shown.
        foreach (self::runs($sorted) as $times) {
            $sizes[$times] = ($sizes[$times] ?? 0) + 1;
            ++$groups;
            $repeated += $times;
        }
        krsort($sizes);
        $least = 2;
        $shown = 0;
        foreach ($sizes as $times => $count) {
            $least = $times;
            $shown += $count;
            if ($shown >= self::MOST_GROUPS) {
                break;
            }
        }
        $largest = [];
        foreach (self::runs($sorted) as $mark => $times) {
            if ($times >= $least) {
                $largest[$mark] = $times;
            }
        }
        ksort($sizes);

        return [
            array_map(static fn (int $times, int $count): array => ['times' => $times, 'groups' => $count], array_keys($sizes), $sizes),
            $largest,
            $repeated,
            $groups,
        ];
    }

    /**
     * @param list<int> $sorted
     *
     * @return \Generator<int, int> mark => how often it occurs, where more than once
     */
    private static function runs(array $sorted): \Generator
    {
        $count = \count($sorted);
        for ($from = 0; $from < $count; $from = $to) {
            $mark = $sorted[$from];
            for ($to = $from + 1; $to < $count && $sorted[$to] === $mark; ++$to) {
            }
            if ($to - $from > 1) {
                yield $mark => $to - $from;
            }
        }
    }

    /**
     * @param list<?int>      $marks
     * @param array<int, int> $times of the largest groups, and of more that are as large as the least of them
     *
     * @return list<array{int, non-empty-list<int>}> records and rows of the largest groups, of equal ones those that begin first
     */
    private static function largest(array $marks, array $times): array
    {
        $first = [];
        foreach ($marks as $row => $mark) {
            if (null !== $mark && isset($times[$mark])) {
                $first[$mark] ??= $row;
            }
        }
        // Groups come in the order in which they begin, and sorting is stable.
        uksort($first, static fn (int $a, int $b): int => $times[$b] <=> $times[$a]);
        $rows = array_map(static fn (int $row): array => [], \array_slice($first, 0, self::MOST_GROUPS, true));
        foreach ($marks as $row => $mark) {
            if (null !== $mark && isset($rows[$mark]) && \count($rows[$mark]) < self::MOST_ROWS) {
                $rows[$mark][] = $row;
            }
        }
        $out = [];
        foreach ($rows as $mark => $own) {
            if ([] !== $own) {
                $out[] = [$times[$mark], $own];
            }
        }

        return $out;
    }
}
