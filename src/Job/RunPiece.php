<?php

declare(strict_types=1);

namespace App\Job;

/** Do this piece. */
final readonly class RunPiece
{
    public function __construct(public int $piece)
    {
    }
}
