<?php

declare(strict_types=1);

namespace App\Table;

/** A table with what stands in its Register. */
final readonly class TableView
{
    /**
     * @param list<string>     $repairs
     * @param list<ColumnView> $columns empty in lists
     */
    public function __construct(
        public int $id,
        public int $studyId,
        public string $name,
        public string $fileName,
        public int $edition,
        public string $state,
        public int $rows,
        public int $columnCount,
        public string $importedAt,
        public array $repairs,
        public array $columns,
    ) {
    }

    public static function of(DataTable $table, bool $withColumns = true): self
    {
        $columns = $table->columns();

        return new self($table->id(), $table->study()->id(), $table->name(), $table->fileName(), $table->edition(), $table->state(), $table->rows(), \count($columns), $table->importedAt()->format(\DATE_ATOM), $table->repairs(), $withColumns ? array_map(ColumnView::of(...), $columns) : []);
    }
}
