<?php

declare(strict_types=1);

namespace App\Judgment;

/** The records behind a cell of the confusion matrix, most mistaken first. */
final readonly class RecordsView
{
    /**
     * @param list<string>       $names
     * @param list<JudgedRecord> $records
     */
    public function __construct(public int $total, public array $names, public array $records)
    {
    }
}
