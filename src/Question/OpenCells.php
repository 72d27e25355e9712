<?php

declare(strict_types=1);

namespace App\Question;

use App\Http\Problem;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Table\TableReader;
use App\Table\Walk;
use Dokimos\Core\Table\Blanked;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Table;

/** Reads cells of stored tables as far as they may be looked at: what the seal hides reads as missing. */
final readonly class OpenCells
{
    /** Records whose order by a column is worked out while a page waits: 300 MB. */
    private const ORDERED = 4_000_000;

    public function __construct(private TableReader $reader, private Questions $questions)
    {
    }

    public function column(TableColumn $column): Column
    {
        return Blanked::of($this->reader->column($column), $this->hidden($column));
    }

    /** @param ?list<string> $names all columns when null */
    public function table(DataTable $table, ?array $names = null): Table
    {
        $columns = [];
        foreach ($table->columns() as $column) {
            if (null === $names || \in_array($column->name(), $names, true)) {
                $columns[$column->name()] = $this->column($column);
            }
        }

        return Table::of($columns, $table->rows());
    }

    /** @param ?list<string> $names all columns when null */
    public function walk(DataTable $table, ?array $names = null): Walk
    {
        $hidden = $this->sets($table);

        return $this->reader->walk(
            $table,
            $names,
            static fn (Table $cells, int $first): Table => self::blanked($cells, $hidden, range($first, $first + $cells->rows - 1)),
        );
    }

    /**
     * One frame of 4,096 rows.
     *
     * @param ?list<string> $names all columns when null
     */
    public function part(DataTable $table, ?array $names, int $frame): Table
    {
        $cells = $this->reader->part($table, $names, $frame);
        $first = $frame * FrameCodec::ROWS;

        return self::blanked($cells, $this->sets($table), range($first, $first + $cells->rows - 1));
    }

    /**
     * Whole frames spread evenly over a large table, at most so many rows; smaller tables whole.
     *
     * @param list<string> $names
     *
     * @return array{Table, list<int>} the rows read, and their numbers in the table
     */
    public function sample(DataTable $table, array $names, int $most): array
    {
        [$cells, $numbers] = $this->reader->sample($table, $names, $most);

        return [self::blanked($cells, $this->sets($table), $numbers), $numbers];
    }

    /**
     * The cells of some rows.
     *
     * @param list<int>     $rows
     * @param ?list<string> $names all columns when null
     *
     * @return array<int, list<?string>> by row: one cell per column, in the order of the table
     */
    public function rows(DataTable $table, array $rows, ?array $names = null): array
    {
        $out = $this->reader->rows($table, $rows, $names);
        $place = 0;
        foreach ($table->columns() as $column) {
            if (null !== $names && !\in_array($column->name(), $names, true)) {
                continue;
            }
            $hidden = array_fill_keys($this->hidden($column), true);
            foreach ([] === $hidden ? [] : $rows as $row) {
                if (isset($hidden[$row])) {
                    $out[$row][$place] = null;
                }
            }
            ++$place;
        }

        return array_map(array_values(...), $out);
    }

    /** One record as a table of one row, with its kinds. */
    public function record(DataTable $table, int $row): Table
    {
        return self::blanked($this->reader->record($table, $row), $this->sets($table), [$row]);
    }

    /**
     * The order of all rows by a column, missing and hidden cells last; equal cells keep their order.
     *
     * @return list<int>
     */
    public function order(TableColumn $column): array
    {
        return $this->known($column)[0];
    }

    /**
     * All rows by a column in either direction; missing cells stay last.
     *
     * @return list<int>
     */
    public function directed(TableColumn $column, bool $descending): array
    {
        self::refuseLong($column);
        [$order, $known] = $this->known($column);

        return $descending ? [...array_reverse(\array_slice($order, 0, $known)), ...\array_slice($order, $known)] : $order;
    }

    /**
     * A page of the rows in the order of a column; missing cells come last in both directions.
     *
     * @return list<int>
     */
    public function ordered(TableColumn $column, bool $descending, int $offset, int $limit): array
    {
        self::refuseLong($column);

        return [] === $this->hidden($column)
            ? $this->reader->ordered($column, $descending, $offset, $limit)
            : \array_slice($this->directed($column, $descending), $offset, $limit);
    }

    private static function refuseLong(TableColumn $column): void
    {
        if ($column->table()->rows() > self::ORDERED) {
            throw Problem::invalid(
                \sprintf(
                    'Up to %s records are put in the order of a column; this table has %s. They stay in the order they came in.',
                    number_format(self::ORDERED),
                    number_format($column->table()->rows()),
                ),
                'sort',
            );
        }
    }

    /** @return array{list<int>, int} the order, and how many cells are known */
    private function known(TableColumn $column): array
    {
        $order = $this->reader->order($column);
        $hidden = $this->hidden($column);
        if ([] === $hidden) {
            $missing = $column->profile()['missing'] ?? 0;

            return [$order, \count($order) - (\is_int($missing) ? $missing : 0)];
        }
        $set = array_fill_keys($hidden, true);
        $open = array_values(array_filter($order, static fn (int $row) => !isset($set[$row])));

        return [[...$open, ...$hidden], \count($order) - $this->column($column)->missing()];
    }

    /**
     * What is predicted, per row: a number, or the place of the class; NAN where it is missing, hidden or of a class that is left out.
     *
     * @param ?list<string> $classes null for a number
     *
     * @return list<float>
     */
    public function outcome(TableColumn $target, ?array $classes): array
    {
        return $this->without($this->reader->outcome($target, $classes), $this->hidden($target));
    }

    /**
     * 1 for the event, 0 for other values, NAN where the target is missing or hidden.
     *
     * @return list<float>
     */
    public function event(TableColumn $target, string $event): array
    {
        return $this->without($this->reader->event($target, $event), $this->hidden($target));
    }

    /** @return list<int|float|string|null> per row what groups, dates or marks it: seconds of a date, a number, or the text; null = missing or hidden */
    public function labels(TableColumn $column): array
    {
        $labels = $this->reader->labels($column);
        foreach ($this->hidden($column) as $row) {
            $labels[$row] = null;
        }

        return array_values($labels);
    }

    /** @return list<array{string, array<int, true>}> columns with the rows hidden in them, as keys */
    private function sets(DataTable $table): array
    {
        $sets = [];
        foreach ($table->columns() as $column) {
            if ([] !== $hidden = $this->hidden($column)) {
                $sets[] = [$column->name(), array_fill_keys($hidden, true)];
            }
        }

        return $sets;
    }

    /**
     * @param list<array{string, array<int, true>}> $hidden  as sets() gives them
     * @param list<int>                             $numbers rows of the stored table that the cells are of
     */
    private static function blanked(Table $cells, array $hidden, array $numbers): Table
    {
        foreach ($hidden as [$name, $set]) {
            if ($cells->has($name)) {
                $of = array_keys(array_filter($numbers, static fn (int $row): bool => isset($set[$row])));
                $cells = $cells->with($name, Blanked::of($cells->column($name), $of));
            }
        }

        return $cells;
    }

    /**
     * @param list<float> $values
     * @param list<int>   $rows
     *
     * @return list<float>
     */
    private function without(array $values, array $rows): array
    {
        foreach ($rows as $row) {
            $values[$row] = \NAN;
        }

        return array_values($values);
    }

    /** @return list<int> */
    private function hidden(TableColumn $column): array
    {
        return $this->questions->seal($column->study())->hidden($column);
    }
}
