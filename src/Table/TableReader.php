<?php

declare(strict_types=1);

namespace App\Table;

use App\Storage\CellStore;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\ColumnAssembler;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Events;

/** Reads cells of stored tables. */
final readonly class TableReader
{
    /** Cells of a sample: about 130 MB. */
    private const SAMPLED_CELLS = 8_000_000;
    /** Columns of a small table that are fetched at once: a few megabytes. */
    private const TOGETHER = 16;

    public function __construct(private CellStore $store)
    {
    }

    public function column(TableColumn $column): Column
    {
        return ColumnAssembler::assemble($column->kind(), $this->store->frames($column->table()->id(), $column->position()), $column->storedLevels());
    }

    /** @param ?list<string> $names all columns when null */
    public function table(DataTable $table, ?array $names = null): Table
    {
        $columns = [];
        // Of a small table several columns are fetched at once.
        foreach (array_chunk(self::named($table, $names), $table->rows() <= CellStore::ROWS ? self::TOGETHER : 1) as $some) {
            $frames = 1 === \count($some) ? [] : $this->store->small(
                $table->id(),
                array_map(static fn (TableColumn $c): int => $c->position(), $some),
            );
            foreach ($some as $column) {
                $columns[$column->name()] = [] === $frames ? $this->column($column) : ColumnAssembler::assemble(
                    $column->kind(),
                    $frames[$column->position()] ?? [],
                    $column->storedLevels(),
                );
            }
        }

        return Table::of($columns, $table->rows());
    }

    /**
     * @param ?list<string> $names all columns when null
     *
     * @return list<TableColumn> in the order of the table
     */
    private static function named(DataTable $table, ?array $names): array
    {
        $wanted = null === $names ? null : array_flip($names);

        return array_values(array_filter(
            $table->columns(),
            static fn (TableColumn $c): bool => null === $wanted || isset($wanted[$c->name()]),
        ));
    }

    /**
     * For who goes through many frames in order, some columns or all.
     *
     * @param ?list<string>                $names all columns when null
     * @param ?\Closure(Table, int): Table $seen  what is seen of the cells read, from their first row on; null = all
     */
    public function walk(DataTable $table, ?array $names = null, ?\Closure $seen = null): Walk
    {
        return new Walk($this->store, $table, self::named($table, $names), $seen);
    }

    /**
     * One frame.
     *
     * @param ?list<string> $names all columns when null
     */
    public function part(DataTable $table, ?array $names, int $frame): Table
    {
        return Table::of($this->some($table, $names, [$frame]), min(FrameCodec::ROWS, $table->rows() - $frame * FrameCodec::ROWS));
    }

    /**
     * @param ?list<string> $names  all columns when null
     * @param list<int>     $frames one after the other, as asked for
     *
     * @return array<string, Column> by name
     */
    private function some(DataTable $table, ?array $names, array $frames): array
    {
        $columns = self::named($table, $names);
        $positions = array_map(static fn (TableColumn $c): int => $c->position(), $columns);
        $read = array_map(fn (int $frame): array => array_map(
            static fn (array $one): array => $one[0],
            $this->store->some($table->id(), $positions, $frame),
        ), $frames);
        $out = [];
        foreach ($columns as $column) {
            $out[$column->name()] = ColumnAssembler::assemble($column->kind(), array_column($read, $column->position()), $column->storedLevels());
        }

        return $out;
    }

    /**
     * Whole frames spread evenly over a large table, at most so many rows, and of very many columns fewer: what answers a page has 512 MB.
     * Smaller tables whole, and any when as many rows are asked for as there are numbers.
     *
     * @param list<string> $names
     *
     * @return array{Table, list<int>} the rows read, and their numbers in the table
     */
    public function sample(DataTable $table, array $names, int $most): array
    {
        $frames = (int) ceil($table->rows() / FrameCodec::ROWS);
        $most = \PHP_INT_MAX === $most ? $most : min($most, intdiv(self::SAMPLED_CELLS, max(1, \count($names))));
        $wanted = max(1, intdiv($most, FrameCodec::ROWS));
        if ($frames <= $wanted) {
            return [$this->table($table, $names), $table->rows() > 0 ? range(0, $table->rows() - 1) : []];
        }
        $picked = array_map(static fn (int $i) => intdiv($i * $frames, $wanted), range(0, $wanted - 1));
        $rows = [];
        foreach ($picked as $frame) {
            array_push($rows, ...range($frame * FrameCodec::ROWS, min($table->rows(), ($frame + 1) * FrameCodec::ROWS) - 1));
        }

        return [Table::of($this->some($table, $names, $picked), \count($rows)), $rows];
    }

    /**
     * The cells of some rows, read frame by frame.
     *
     * @param list<int>     $rows
     * @param ?list<string> $names all columns when null
     *
     * @return array<int, list<?string>> by row: one cell per column, in the order of the table
     */
    public function rows(DataTable $table, array $rows, ?array $names = null): array
    {
        $byFrame = [];
        foreach ($rows as $row) {
            $byFrame[CellStore::frameOf($row)][] = $row;
        }
        $out = array_fill_keys($rows, []);
        foreach ($byFrame as $frame => $inFrame) {
            foreach ($this->some($table, $names, [$frame]) as $part) {
                foreach ($inFrame as $row) {
                    $out[$row][] = $part->text($row - $frame * FrameCodec::ROWS);
                }
            }
        }

        return $out;
    }

    /** One record as a table of one row, with its kinds. */
    public function record(DataTable $table, int $row): Table
    {
        $frame = CellStore::frameOf($row);
        $columns = array_map(
            static fn (Column $c): Column => $c->take([$row - $frame * FrameCodec::ROWS]),
            $this->some($table, null, [$frame]),
        );

        return Table::of($columns, 1);
    }

    /**
     * The order of all rows by a column, missing last; equal cells keep their order.
     *
     * @return list<int>
     */
    public function order(TableColumn $column): array
    {
        $table = $column->table()->id();
        $kept = $this->store->order($table, $column->position());
        if (null !== $kept) {
            return $kept;
        }
        $cells = $this->column($column);
        if ($cells instanceof NumberColumn) {
            $keys = array_map(static fn (float $v) => is_nan($v) ? \INF : $v, $cells->values);
            asort($keys);
        } elseif ($cells instanceof DateColumn) {
            $keys = array_map(static fn (int $s) => DateColumn::MISSING === $s ? \PHP_INT_MAX : $s, $cells->seconds);
            asort($keys);
        } else {
            $keys = [];
            for ($row = 0, $count = $cells->count(); $row < $count; ++$row) {
                $keys[] = null === $cells->text($row) ? "\u{10FFFF}" : mb_strtolower((string) $cells->text($row));
            }
            asort($keys, \SORT_STRING);
        }
        $order = array_keys($keys);
        $this->store->keepOrder($table, $column->position(), $order);

        return $order;
    }

    /**
     * A page of the rows in the order of a column; missing cells come last in both directions.
     *
     * @return list<int>
     */
    public function ordered(TableColumn $column, bool $descending, int $offset, int $limit): array
    {
        $part = fn (int $from, int $count): array => $count < 1 ? [] : ($this->store->order($column->table()->id(), $column->position(), $from, $count) ?? \array_slice($this->order($column), $from, $count));
        if (!$descending) {
            return $part($offset, $limit);
        }
        $missing = $column->profile()['missing'] ?? 0;
        $known = $column->table()->rows() - (\is_int($missing) ? $missing : 0);
        $inside = max(0, min($limit, $known - $offset));

        return [...array_reverse($part($known - $offset - $inside, $inside)), ...$part(max($known, $offset), $limit - $inside)];
    }

    /**
     * What is predicted, per row: a number, or the place of the class; NAN where it is missing or of a class that is left out.
     *
     * @param ?list<string> $classes null for a number
     *
     * @return list<float>
     */
    public function outcome(TableColumn $target, ?array $classes): array
    {
        $cells = $this->column($target);
        if (null === $classes) {
            return $cells instanceof NumberColumn ? array_map(static fn (float $v): float => is_finite($v) ? $v : \NAN, $cells->values) : array_fill(0, $cells->count(), \NAN);
        }
        $places = array_flip($classes);
        $out = [];
        for ($row = 0, $count = $cells->count(); $row < $count; ++$row) {
            $text = $cells->text($row);
            $out[] = null === $text || !isset($places[$text]) ? \NAN : (float) $places[$text];
        }

        return $out;
    }

    /** @return list<int|float|string|null> per row what groups, dates or marks it: seconds of a date, a number, or the text; null = missing */
    public function labels(TableColumn $column): array
    {
        $cells = $this->column($column);
        $out = [];
        for ($row = 0, $count = $cells->count(); $row < $count; ++$row) {
            $out[] = match (true) {
                $cells->isMissing($row) => null,
                $cells instanceof DateColumn => $cells->seconds[$row],
                $cells instanceof NumberColumn => $cells->values[$row],
                default => $cells->text($row),
            };
        }

        return $out;
    }

    /**
     * 1 for the event, 0 for other values, NAN where the target is missing.
     *
     * @return list<float>
     */
    public function event(TableColumn $target, string $event): array
    {
        return Events::in($this->column($target), $event);
    }
}
