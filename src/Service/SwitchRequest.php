<?php

declare(strict_types=1);

namespace App\Service;

use Symfony\Component\Validator\Constraints as Assert;

/** Another version answers, or none for a while; or what callers send is kept for so many days. */
final readonly class SwitchRequest
{
    /**
     * @param ?int $approvalId null = as it is
     * @param ?int $keepDays   0 = what is kept goes at once
     */
    public function __construct(
        public ?int $approvalId = null,
        public ?bool $paused = null,
        #[Assert\Range(min: 0, max: Inputs::MOST_DAYS, notInRangeMessage: 'What callers send is kept for up to 90 days.')]
        public ?int $keepDays = null,
    ) {
    }
}
