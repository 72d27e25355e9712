<?php

declare(strict_types=1);

namespace App\Trial;

use Symfony\Component\Validator\Constraints as Assert;

/** Asks for a trial. */
final readonly class TrialRequest
{
    /**
     * @param string               $learner  '' = the usual one for what is predicted
     * @param array<string, mixed> $settings
     * @param ?int                 $rows     learn from so many of the training rows; null = all
     */
    public function __construct(
        #[Assert\Positive(message: 'Choose the preparation variant that the trial uses.')]
        public int $variantId = 0,
        public string $learner = '',
        public array $settings = [],
        public ?int $rows = null,
    ) {
    }
}
