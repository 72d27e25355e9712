<?php

declare(strict_types=1);

namespace App\Register;

/** One record; rows are numbered from 1 in the order of the file. */
final readonly class RowView
{
    /**
     * @param list<string|null> $cells
     * @param bool              $sealed whether cells of it are hidden
     */
    public function __construct(public int $number, public array $cells, public bool $sealed)
    {
    }
}
