<?php

declare(strict_types=1);

namespace App\Question;

use App\Table\DataTable;
use App\Table\TableColumn;

/**
 * What of a study's records may be looked at before the seal is opened: of a sealed row neither the outcome nor a cell of a column that
 * is known only afterwards. Everything else asks here; nothing but this class asks the question which rows are sealed.
 */
final readonly class Seal
{
    private function __construct(private Question $question)
    {
    }

    public static function of(Question $question): self
    {
        return new self($question);
    }

    /** @return list<int> the sealed rows of the study's table, ascending */
    public function rows(): array
    {
        return $this->question->sealedRows();
    }

    public function count(): int
    {
        return $this->question->sealedCount();
    }

    /** @return array<int, true> the sealed rows as keys */
    public function set(): array
    {
        return array_fill_keys($this->rows(), true);
    }

    public function holds(int $row): bool
    {
        return isset($this->set()[$row]);
    }

    /** Whether something is still hidden. */
    public function isClosed(): bool
    {
        return $this->question->hasSealedRows() && !$this->question->isSealOpened();
    }

    /** @return list<int> rows of the column's table whose cell may not be looked at */
    public function hidden(TableColumn $column): array
    {
        return $this->concerns($column) && $this->isClosed() ? $this->rowsIn($column->table()) : [];
    }

    /**
     * Rows of any table of the study that are sealed records: those of its own table, or the same records in a later edition.
     *
     * @return list<int>
     */
    public function rowsIn(DataTable $table): array
    {
        return $table === $this->question->table() ? $this->rows() : $table->sealedRecords();
    }

    /** @return list<string> columns of a table that are hidden in some rows */
    public function hiddenColumns(DataTable $table): array
    {
        $names = [];
        foreach ($table->columns() as $column) {
            if ([] !== $this->hidden($column)) {
                $names[] = $column->name();
            }
        }

        return $names;
    }

    private function concerns(TableColumn $column): bool
    {
        return $column->name() === $this->question->target() || !$column->isKnown();
    }

    /**
     * Rows that are not sealed and whose outcome is known, in file order.
     *
     * @param list<float> $outcome per row of the study's table; NAN where it is not known
     *
     * @return list<int>
     */
    public function openRows(array $outcome): array
    {
        $sealed = $this->set();
        $rows = [];
        foreach ($outcome as $row => $value) {
            if (!isset($sealed[$row]) && !is_nan($value)) {
                $rows[] = $row;
            }
        }

        return $rows;
    }

    /** @return list<mixed> what anything made from a table's visible cells depends on */
    public function stamp(DataTable $table): array
    {
        $own = $this->question->table() === $table;

        return [$own ? [$this->question->target(), $this->question->event(), $this->question->task(), $this->question->classes()] : null, $this->isClosed(), hash('xxh3', implode(',', $this->rowsIn($table))), $this->hiddenColumns($table)];
    }
}
