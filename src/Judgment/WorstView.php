<?php

declare(strict_types=1);

namespace App\Judgment;

/** The validation rows that a trial got most wrong, the worst first. */
final readonly class WorstView
{
    /**
     * @param list<string>      $names
     * @param list<WorstRecord> $records
     * @param list<BandView>    $bands   of a number: how many rows are off by how much
     */
    public function __construct(public int $total, public array $names, public array $records, public array $bands)
    {
    }
}
