<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** What an import learned about the whole table. */
final readonly class ImportedTable
{
    /**
     * @param list<string>              $names
     * @param array<int, EncodedColumn> $columns by place
     * @param list<string>              $repairs what was mended, in sentences
     */
    public function __construct(public array $names, public array $columns, public int $rows, public array $repairs)
    {
    }
}
