<?php

declare(strict_types=1);

namespace App\Table;

/** One bin of a small distribution. */
final readonly class BinView
{
    public function __construct(public float $low, public float $high, public int $count)
    {
    }
}
