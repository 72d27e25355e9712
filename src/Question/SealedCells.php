<?php

declare(strict_types=1);

namespace App\Question;

use App\Table\DataTable;
use App\Table\TableColumn;
use App\Table\TableReader;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Table;

/** Reads cells behind the seal, for the three who must: the draw of the sealed rows, their one examination, and the profile of what stays visible. */
final readonly class SealedCells
{
    public function __construct(private TableReader $reader)
    {
    }

    /**
     * Outcomes of all rows, for drawing which of them are sealed.
     *
     * @param ?list<string> $classes null for a number
     *
     * @return list<float> NAN where it is not known
     */
    public function outcome(TableColumn $target, ?array $classes, ?string $event): array
    {
        return null !== $event ? $this->reader->event($target, $event) : $this->reader->outcome($target, $classes);
    }

    /** @return list<int|float|string|null> per row what groups, dates or marks it */
    public function labels(TableColumn $column): array
    {
        return $this->reader->labels($column);
    }

    /**
     * Some columns of given rows, whatever is hidden in them.
     *
     * @param list<string> $names
     * @param list<int>    $rows
     */
    public function table(DataTable $table, array $names, array $rows): Table
    {
        return $this->reader->table($table, $names)->take($rows);
    }

    public function column(TableColumn $column): Column
    {
        return $this->reader->column($column);
    }
}
