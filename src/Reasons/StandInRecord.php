<?php

declare(strict_types=1);

namespace App\Reasons;

/** A record on which a stand-in differs from the model. */
final readonly class StandInRecord
{
    /** @param float $model the model's answer */
    public function __construct(public int $number, public float $model, public float $standIn)
    {
    }
}
