<?php

declare(strict_types=1);

namespace App\Reasons;

/** A single change, made to all records of a group. */
final readonly class GroupChange
{
    /**
     * @param string $to      the cell they all get
     * @param int    $reached records that reach what is wanted then, and did not before
     * @param int    $lost    records that reached it before, and do not then
     * @param float  $mean    change of the answer, over the group
     */
    public function __construct(public string $column, public string $to, public int $reached, public int $lost, public float $mean)
    {
    }
}
