<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Calibrate\Way;
use Symfony\Component\Validator\Constraints as Assert;

/** Asks for a trial. */
final readonly class TrialRequest
{
    /**
     * @param string               $learner     '' = the usual one for what is predicted
     * @param array<string, mixed> $settings
     * @param ?int                 $rows        learn from so many of the training rows; null = all
     * @param ?ChoiceRequest       $choice      which prepared columns may serve; null = all
     * @param string               $calibration how chances are made to come true
     */
    public function __construct(
        #[Assert\Positive(message: 'Choose the preparation variant that the trial uses.')]
        public int $variantId = 0,
        public string $learner = '',
        public array $settings = [],
        public ?int $rows = null,
        #[Assert\Valid]
        public ?ChoiceRequest $choice = null,
        #[Assert\Choice(Way::ALL, message: 'Chances are calibrated as they come, by sigmoid, by isotonic, or by whichever does better.')]
        public string $calibration = Way::NONE,
    ) {
    }
}
