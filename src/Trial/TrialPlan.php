<?php

declare(strict_types=1);

namespace App\Trial;

use App\Preparation\Variant;
use Dokimos\Core\Calibrate\Way;
use Dokimos\Core\Validate\ColumnChoice;

/** What a trial is to be: whoever plans one says this. */
final readonly class TrialPlan
{
    /**
     * @param string               $learner     '' = the usual one for what is predicted
     * @param array<string, mixed> $settings
     * @param ?int                 $part        learn from so many of the training rows; null = all
     * @param ?ColumnChoice        $choice      which prepared columns may serve; null = all
     * @param string               $calibration how chances are made to come true: one of Way
     * @param ?Chosen              $chosen      where it was chosen among many
     */
    public function __construct(
        public Variant $variant,
        public string $learner = '',
        public array $settings = [],
        public ?int $part = null,
        public ?ColumnChoice $choice = null,
        public string $calibration = Way::NONE,
        public ?Chosen $chosen = null,
    ) {
    }
}
