<?php

declare(strict_types=1);

namespace App\Table;

/** One record; rows are numbered from 1 in the order of the file. */
final readonly class RowView
{
    /** @param list<string|null> $cells */
    public function __construct(public int $number, public array $cells)
    {
    }
}
