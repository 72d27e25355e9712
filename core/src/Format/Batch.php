<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** Some consecutive records, column by column. */
final readonly class Batch
{
    /** @param list<list<string>> $columns one list of cells per column */
    public function __construct(public array $columns, public int $rows)
    {
    }
}
