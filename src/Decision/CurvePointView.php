<?php

declare(strict_types=1);

namespace App\Decision;

/** What the best so many records return together. */
final readonly class CurvePointView
{
    public function __construct(public int $actions, public float $return)
    {
    }
}
