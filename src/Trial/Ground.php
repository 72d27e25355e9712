<?php

declare(strict_types=1);

namespace App\Trial;

use App\Http\Problem;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Table\TableReader;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Table;

/** What a study's trials stand on: which rows may be looked at, which columns may serve. */
final readonly class Ground
{
    public function __construct(private TableReader $reader)
    {
    }

    public function table(Study $study): DataTable
    {
        return $study->table() ?? throw new Problem(409, 'This study has no table yet. Import one first.');
    }

    /** @return array{DataTable, TableColumn, string} table, target and event */
    public function target(Study $study): array
    {
        $table = $this->table($study);
        $column = null === $study->target() ? null : $table->column($study->target());
        if (null === $column || null === $study->event()) {
            throw new Problem(409, 'Choose the target and the event first: what should be predicted?');
        }

        return [$table, $column, $study->event()];
    }

    /** @return list<string> columns known at decision time that are meant as inputs */
    public function inputs(Study $study): array
    {
        return array_values(array_map(static fn (TableColumn $c) => $c->name(), array_filter($this->table($study)->columns(), static fn (TableColumn $c) => $c->mayServe())));
    }

    /**
     * Rows that are not sealed and whose outcome is known, in file order.
     *
     * @param list<float> $event per row of the table
     *
     * @return list<int>
     */
    public function openRows(Study $study, array $event): array
    {
        $sealed = array_fill_keys($study->sealedRows(), true);
        $rows = [];
        foreach ($event as $row => $e) {
            if (!isset($sealed[$row]) && !is_nan($e)) {
                $rows[] = $row;
            }
        }

        return $rows;
    }

    /**
     * The unsealed part of the table with everything but the target, and the event per row of that part.
     *
     * @param list<string> $names
     *
     * @return array{Table, list<float>, list<int>} table, events, rows of the whole table
     */
    public function open(Study $study, array $names): array
    {
        [$table, $target, $event] = $this->target($study);
        $events = $this->reader->event($target, $event);
        $rows = $this->openRows($study, $events);

        return [$this->reader->table($table, $names)->take($rows), array_map(static fn (int $r) => $events[$r], $rows), $rows];
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
        [$table, $target, $event] = $this->target($study);
        $events = $this->reader->event($target, $event);
        $rows = $study->sealedRows();

        return [$this->reader->table($table, $names)->take($rows), array_map(static fn (int $r) => $events[$r], $rows), $rows];
    }

    /**
     * The columns of the study's table that preparation works on: everything not set aside, whose values come in time.
     *
     * @return list<string>
     */
    public function candidates(Study $study): array
    {
        return array_values(array_map(static fn (TableColumn $c) => $c->name(), array_filter($this->table($study)->columns(), static fn (TableColumn $c) => ColumnUse::Target !== $c->use() && ColumnUse::Aside !== $c->use() && $c->isKnown())));
    }
}
