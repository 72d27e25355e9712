<?php

declare(strict_types=1);

namespace App\Table;

/** A table is read, or made, to its end: whoever has to look at it first, does. */
final readonly class TableReady
{
    public function __construct(public DataTable $table)
    {
    }
}
