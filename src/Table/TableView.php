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
     * @param ?EditionView     $before  how it differs from the edition before; null for a first one and in lists
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
        public ?EditionView $before,
    ) {
    }

    public static function of(DataTable $table, bool $withColumns = true, ?EditionView $before = null): self
    {
        $columns = $table->columns();

        return new self($table->id(), $table->study()->id(), $table->name(), $table->fileName(), $table->edition(), $table->state(), $table->rows(), \count($columns), $table->importedAt()->format(\DATE_ATOM), [...$table->repairs(), ...array_merge(...array_map(self::unsure(...), $columns))], $withColumns ? array_map(ColumnView::of(...), $columns) : [], array_map(AskView::of(...), $withColumns ? Kind::cases() : []), $before);
    }

    /** @return list<string> a sentence when no date of the column tells the order of day and month */
    private static function unsure(TableColumn $column): array
    {
        /** @var ?array{string, string, string} $unsure */
        $unsure = $column->profile()['unsure'] ?? null;

        return null === $unsure ? [] : [\sprintf('No date in %s tells whether the day or the month comes first: %s was read as %s, it could be %s. Import the file again the other way round if that is wrong.', $column->name(), ...$unsure)];
    }
}
