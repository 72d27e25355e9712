<?php

declare(strict_types=1);

namespace App\Reasons;

/** What came of the open records that are most alike: those the model itself answered by, where it answers by such. */
final readonly class NeighborsView
{
    /**
     * @param ?int      $hits    with the event, or of the class that is likeliest
     * @param ?float    $mean    of a number
     * @param list<int> $nearest numbers of the nearest records
     * @param bool      $own     whether they are the model's own
     */
    public function __construct(public int $records, public ?int $hits, public ?float $mean, public array $nearest, public bool $own)
    {
    }
}
