<?php

declare(strict_types=1);

namespace App\Score;

/** A page of scored records. */
final readonly class ScoredRowsView
{
    /**
     * @param list<string>        $names of the carried columns
     * @param list<ScoredRowView> $rows
     */
    public function __construct(public int $total, public int $offset, public array $names, public array $rows)
    {
    }
}
