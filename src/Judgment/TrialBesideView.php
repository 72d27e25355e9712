<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Trial\FigureView;

/** What a trial of a variant reached. */
final readonly class TrialBesideView
{
    public function __construct(
        public int $id,
        public int $number,
        public string $learner,
        public string $title,
        public string $size,
        public FigureView $measure,
        public ?float $value,
        public ?float $low,
        public ?float $high,
        public bool $stale,
    ) {
    }
}
