<?php

declare(strict_types=1);

namespace App\Judgment;

/** The open records that end in a leaf of a tree. */
final readonly class LeafRecordsView
{
    /** @param list<int> $numbers of the records, the first thousand */
    public function __construct(public int $node, public int $total, public array $numbers)
    {
    }
}
