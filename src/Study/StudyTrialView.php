<?php

declare(strict_types=1);

namespace App\Study;

/** A trial in a study's thread. */
final readonly class StudyTrialView
{
    public function __construct(public int $id, public int $number, public string $title, public string $state, public ?float $auc, public bool $stale)
    {
    }
}
