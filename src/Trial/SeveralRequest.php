<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Calibrate\Way;
use Symfony\Component\Validator\Constraints as Assert;

/** Asks for a trial of each of several learners. */
final readonly class SeveralRequest
{
    /**
     * @param list<string>                        $learners
     * @param array<string, array<string, mixed>> $settings by learner, where they are not as usual
     * @param ?int                                $rows     learn from so many of the training rows; null = all
     * @param ?ChoiceRequest                      $choice   which prepared columns may serve; null = all
     */
    public function __construct(
        #[Assert\Positive(message: 'Choose the preparation variant that the trials use.')]
        public int $variantId = 0,
        #[Assert\Count(min: 1, max: 50, minMessage: 'Tick at least one learner.')]
        #[Assert\All([new Assert\Type('string', message: 'Learners are named by text.')])]
        public array $learners = [],
        public array $settings = [],
        public ?int $rows = null,
        #[Assert\Valid]
        public ?ChoiceRequest $choice = null,
        #[Assert\Choice(Way::ALL, message: 'Chances are calibrated as they come, by sigmoid, by isotonic, or by whichever does better.')]
        public string $calibration = Way::NONE,
    ) {
    }
}
