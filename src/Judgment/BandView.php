<?php

declare(strict_types=1);

namespace App\Judgment;

/** Rows whose error lies in a band. */
final readonly class BandView
{
    /**
     * @param ?float $low  what came less what was predicted, at least; null = no limit
     * @param ?float $high less than that
     */
    public function __construct(public ?float $low, public ?float $high, public int $rows)
    {
    }
}
