<?php

declare(strict_types=1);

namespace App\Register;

use App\Http\Problem;
use App\Question\OpenCells;
use App\Question\Questions;
use App\Table\DataTable;
use App\Table\TableColumn;

/** Pages through the records of a table. */
final readonly class Records
{
    public function __construct(private OpenCells $reader, private Selections $selections, private Questions $questions)
    {
    }

    public function rows(DataTable $table, RowQuery $query): RowsView
    {
        $columns = $query->columnNames();
        $limit = max(1, min(200, $query->limit));
        $sort = null === $query->sort ? null : $table->column($query->sort) ?? throw Problem::invalid(
            \sprintf('There is no column %s to sort by.', $query->sort),
            'sort',
        );
        if ($query->narrows()) {
            $found = $this->selections->find($table, $query);
            $offset = max(0, min($query->offset, max(0, $found->count - 1)));

            return $this->page($table, $found->page($offset, $limit), $columns, $found->count, $offset, $found);
        }
        $offset = max(0, min($query->offset, max(0, $table->rows() - 1)));
        if (null !== $sort) {
            $wanted = $this->reader->ordered($sort, $query->descending, $offset, $limit);
        } else {
            $wanted = range($offset, max($offset, min($table->rows(), $offset + $limit) - 1));
            $wanted = $query->descending ? array_map(static fn (int $r) => $table->rows() - 1 - $r, $wanted) : $wanted;
        }

        return $this->page($table, $table->rows() > 0 ? $wanted : [], $columns, $table->rows(), $offset);
    }

    /**
     * @param list<int>     $rows
     * @param ?list<string> $names
     */
    private function page(DataTable $table, array $rows, ?array $names, int $total, int $offset, ?Selection $found = null): RowsView
    {
        $cells = $this->reader->rows($table, $rows, $names);
        $shown = array_values(array_filter(
            array_map(static fn (TableColumn $c) => $c->name(), $table->columns()),
            static fn (string $name) => null === $names || \in_array($name, $names, true),
        ));

        $seal = $this->questions->seal($table->study());
        $hidden = $seal->hiddenColumns($table);
        $sealed = [] === $hidden ? [] : array_fill_keys($seal->rowsIn($table), true);

        return new RowsView(
            $total,
            $offset,
            $shown,
            array_map(static fn (int $r) => new RowView($r + 1, $cells[$r], isset($sealed[$r])), array_keys($cells)),
            $table->rows(),
            $found->without ?? [],
            $found->sealed ?? 0,
            $found?->share,
            $hidden,
        );
    }
}
