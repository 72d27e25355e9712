<?php

declare(strict_types=1);

namespace App\Trial;

use Symfony\Component\Validator\Constraints as Assert;

/** Asks for a trial. */
final readonly class TrialRequest
{
    /** @param array<string, mixed> $settings */
    public function __construct(
        #[Assert\Positive(message: 'Choose the preparation variant that the trial uses.')]
        public int $variantId = 0,
        public string $learner = 'logistic',
        public array $settings = [],
    ) {
    }
}
