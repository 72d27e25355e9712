<?php

declare(strict_types=1);

namespace App\Register;

/** A page of records. */
final readonly class RowsView
{
    /**
     * @param int           $total   records that answer the query
     * @param int           $all     records of the table
     * @param list<string>  $names
     * @param list<RowView> $rows
     * @param list<int>     $without how many would answer without each condition
     * @param int           $sealed  records that were not asked, since the question was about what is hidden in them
     * @param list<string>  $hidden  columns whose cells are hidden in sealed records
     */
    public function __construct(
        public int $total,
        public int $offset,
        public array $names,
        public array $rows,
        public int $all,
        public array $without,
        public int $sealed,
        public ?ShareView $share,
        public array $hidden,
    ) {
    }
}
