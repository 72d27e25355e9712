<?php

declare(strict_types=1);

namespace App\Trial;

/** All trials of a study, best first, beside the baseline. */
final readonly class StandingsView
{
    /** @param list<TrialView> $trials */
    public function __construct(public array $trials, public float $baselineAuc, public ?float $baseRate, public int $folds, public int $repeats, public int $sealedRows, public int $sealOpenings)
    {
    }
}
