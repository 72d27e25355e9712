<?php

declare(strict_types=1);

namespace App\Table;

/** A page of records. */
final readonly class RowsView
{
    /**
     * @param list<string>  $names
     * @param list<RowView> $rows
     */
    public function __construct(public int $total, public int $offset, public array $names, public array $rows)
    {
    }
}
