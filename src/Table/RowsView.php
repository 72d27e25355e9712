<?php

declare(strict_types=1);

namespace App\Table;

/** A page of records. */
final readonly class RowsView
{
    /**
     * @param int           $total   records that answer the query
     * @param int           $all     records of the table
     * @param list<string>  $names
     * @param list<RowView> $rows
     * @param list<int>     $without how many would answer without each condition
     * @param int           $sealed  records left out because the question was about the outcome and they are sealed
     */
    public function __construct(public int $total, public int $offset, public array $names, public array $rows, public int $all, public array $without, public int $sealed, public ?ShareView $share)
    {
    }
}
