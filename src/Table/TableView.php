<?php

declare(strict_types=1);

namespace App\Table;

use Dokimos\Core\Table\Kind;

/** A table with what stands in its Register. */
final readonly class TableView
{
    /**
     * @param list<string>     $repairs
     * @param list<ColumnView> $columns empty in lists
     * @param list<AskView>    $asks    what a column of each kind can be asked
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
        public array $asks,
    ) {
    }

    public static function of(DataTable $table, bool $withColumns = true): self
    {
        $columns = $table->columns();

        return new self($table->id(), $table->study()->id(), $table->name(), $table->fileName(), $table->edition(), $table->state(), $table->rows(), \count($columns), $table->importedAt()->format(\DATE_ATOM), $table->repairs(), $withColumns ? array_map(ColumnView::of(...), $columns) : [], array_map(AskView::of(...), $withColumns ? Kind::cases() : []));
    }
}
