<?php

declare(strict_types=1);

namespace App\Question;

use App\Http\Problem;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\TableColumn;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Table;

/** What a study's trials stand on: which rows may be looked at, which columns may serve. */
final readonly class Ground
{
    public function __construct(private OpenCells $reader, private SealedCells $behind, private Questions $questions)
    {
    }

    public function table(Study $study): DataTable
    {
        return $this->questions->of($study)->table() ?? throw new Problem(409, 'This study has no table yet. Import one first.');
    }

    /** @return array{DataTable, TableColumn} table and target */
    public function target(Study $study): array
    {
        $table = $this->table($study);
        $column = null === $this->questions->of($study)->target() ? null : $table->column($this->questions->of($study)->target());
        if (null === $column) {
            throw new Problem(409, 'Choose the target first: what should be predicted?');
        }

        return [$table, $column];
    }

    /** @return list<float> what is predicted, per row of the table: a number, the place of a class, 1 for the event; NAN where it is not known or sealed */
    public function outcome(Study $study): array
    {
        [, $column] = $this->target($study);

        return null !== $this->questions->of($study)->event() ? $this->reader->event(
            $column,
            $this->questions->of($study)->event(),
        ) : $this->reader->outcome(
            $column,
            $this->questions->of($study)->classes(),
        );
    }

    /**
     * What divides the rows, when it is not chance.
     *
     * @param list<int> $rows
     *
     * @return ?list<int|float|string|null> one per row asked for
     */
    public function labels(Study $study, array $rows): ?array
    {
        $name = $this->questions->of($study)->plan()?->column;
        if (null === $name) {
            return null;
        }
        $column = $this->table($study)->column($name) ?? throw new Problem(
            409,
            \sprintf('The rows are divided by %s, which is no longer there. Choose the target again.', $name),
        );
        $labels = $this->reader->labels($column);

        return array_map(static fn (int $row): int|float|string|null => $labels[$row], $rows);
    }

    /** The column that says how much each record counts, if there is one. */
    public function weight(Study $study): ?TableColumn
    {
        foreach ($this->questions->of($study)->table()?->columns() ?? [] as $column) {
            if (ColumnUse::Weight === $column->use()) {
                return $column;
            }
        }

        return null;
    }

    /**
     * How much records count: 0 where there is no weight, or one below 0. Whole numbers are counts, as they are; others are brought to a
     * mean of 1, so that their unit does not matter: a leaf of ten rows is to be one of ten rows.
     *
     * @param list<int> $rows of the table
     *
     * @return ?list<float> one per row asked for; null = all count the same
     */
    public function weights(Study $study, array $rows): ?array
    {
        if (null === $column = $this->weight($study)) {
            return null;
        }
        $weights = array_map(static fn (float $w): float => is_finite($w) && $w > 0.0 ? $w : 0.0, $this->reader->outcome($column, null));

        $own = array_map(static fn (int $row): float => $weights[$row], $rows);
        $there = array_filter($own);
        $isCount = [] === array_filter($there, static fn (float $w): bool => floor($w) !== $w);
        $mean = $isCount ? 1.0 : array_sum($there) / max(1, \count($there));

        return array_map(static fn (float $w): float => $w / $mean, $own);
    }

    /** @return list<string> columns known at decision time that are meant as inputs */
    public function inputs(Study $study): array
    {
        return array_values(array_map(
            static fn (TableColumn $c) => $c->name(),
            array_filter($this->table($study)->columns(), static fn (TableColumn $c) => $c->mayServe()),
        ));
    }

    /**
     * Rows that are not sealed and whose outcome is known, in file order.
     *
     * @param list<float> $outcome per row of the table
     *
     * @return list<int>
     */
    public function openRows(Study $study, array $outcome): array
    {
        return $this->questions->seal($study)->openRows($outcome);
    }

    /**
     * The unsealed part of the table with everything but the target, and the outcome per row of that part.
     *
     * @param list<string> $names
     *
     * @return array{Table, list<float>, list<int>} table, outcomes, rows of the whole table
     */
    public function open(Study $study, array $names): array
    {
        $outcome = $this->outcome($study);
        $rows = $this->openRows($study, $outcome);

        $table = $this->table($study);
        $columns = [];
        foreach ($table->columns() as $column) {
            if (\in_array($column->name(), $names, true)) {
                // One column at a time: all of them whole and taken would be twice the table.
                $columns[$column->name()] = $this->reader->column($column)->take($rows);
            }
        }

        return [Table::of($columns, \count($rows)), array_map(static fn (int $r) => $outcome[$r], $rows), $rows];
    }

    /**
     * The sealed rows, for their one examination.
     *
     * @param list<string> $names
     *
     * @return array{Table, list<float>, list<int>}
     */
    public function sealed(Study $study, array $names): array
    {
        [$table, $target] = $this->target($study);
        $outcome = $this->behind->outcome($target, $this->questions->of($study)->classes(), $this->questions->of($study)->event());
        $rows = $this->questions->seal($study)->rows();

        return [$this->behind->table($table, $names, $rows), array_map(static fn (int $r) => $outcome[$r], $rows), $rows];
    }

    /**
     * Every record whose outcome is known, the sealed ones too: only once the seal has been opened.
     *
     * @param list<string> $names
     *
     * @return array{Table, list<float>, list<int>} table, outcomes, rows of the whole table
     */
    public function whole(Study $study, array $names): array
    {
        if ($this->questions->seal($study)->isClosed()) {
            throw new Problem(409, 'The seal of this study is closed: its rows teach nothing before it is opened.');
        }
        [$table, $target] = $this->target($study);
        $outcome = $this->behind->outcome($target, $this->questions->of($study)->classes(), $this->questions->of($study)->event());
        $rows = array_keys(array_filter($outcome, static fn (float $y): bool => !is_nan($y)));

        return [$this->behind->table($table, $names, $rows), array_map(static fn (int $r): float => $outcome[$r], $rows), $rows];
    }

    /**
     * Of the columns that preparation works on those that some steps, and the inputs, need: a key of a million values is not read in vain.
     *
     * @param list<array<string, mixed>> $steps
     * @param list<string>               $inputs
     *
     * @return list<string>
     */
    public function needed(Study $study, array $steps, array $inputs): array
    {
        $candidates = $this->candidates($study);
        $named = [];
        foreach ($steps as $step) {
            $columns = $step['columns'] ?? null;
            if (!\is_array($columns) || !array_is_list($columns)) {
                // A step that says otherwise which columns it takes may take any.
                return $candidates;
            }
            array_walk_recursive($step, static function (mixed $value) use (&$named): void {
                $named[] = $value;
            });
        }

        return array_values(array_filter(
            $candidates,
            static fn (string $name): bool => \in_array($name, $inputs, true) || \in_array($name, $named, true),
        ));
    }

    /**
     * The columns of the study's table that preparation works on: everything not set aside, whose values come in time.
     *
     * @return list<string>
     */
    public function candidates(Study $study): array
    {
        return array_values(array_map(
            static fn (TableColumn $c) => $c->name(),
            array_filter(
                $this->table($study)->columns(),
                static fn (TableColumn $c) => ColumnUse::Target !== $c->use() && ColumnUse::Aside !== $c->use() && $c->isKnown(),
            ),
        ));
    }
}
