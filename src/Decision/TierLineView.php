<?php

declare(strict_types=1);

namespace App\Decision;

/** What the records of a tier on the list cost and bring. */
final readonly class TierLineView
{
    public function __construct(public int $rank, public ListFiguresView $figures)
    {
    }
}
