<?php

declare(strict_types=1);

namespace App\Trial;

/** How far a trial is from the leader, fold by fold: the corrected resampled test. */
final readonly class DistanceView
{
    /** @param bool $noise whether the interval of the difference holds 0, or there is none and the trials' own intervals meet */
    public function __construct(public int $trialId, public float $difference, public ?float $low, public ?float $high, public ?float $p, public bool $noise)
    {
    }
}
