<?php

declare(strict_types=1);

namespace App\Overview;

use App\Trial\FigureView;

/** A trial in a study's thread, with its figure on validation rows. */
final readonly class StudyTrialView
{
    public function __construct(public int $id, public int $number, public string $title, public string $state, public string $task, public FigureView $measure, public ?float $value, public bool $stale)
    {
    }
}
