<?php

declare(strict_types=1);

namespace App\Register;

/** What a change of many columns would do, or did. */
final readonly class ColumnsView
{
    /** @param list<ColumnEffect> $columns */
    public function __construct(public bool $applied, public array $columns)
    {
    }
}
