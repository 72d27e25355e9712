<?php

declare(strict_types=1);

namespace App\Trial;

use Symfony\Component\Validator\Constraints as Assert;

/** Limits that the clearest trial has to keep, and finalists that a person names. */
final readonly class FinalistsRequest
{
    /**
     * @param ?float $least       figure that the clearest has to reach
     * @param ?float $loss        against the strongest that it may have at most
     * @param ?int   $strongestId chosen by hand; null = by figure
     * @param ?int   $clearestId  chosen by hand; null = by the limits
     */
    public function __construct(
        #[Assert\Range(min: 1, max: 100000, notInRangeMessage: 'What may be read is 1 to 100,000 leaves, rules or terms.')]
        public int $reading = Finalists::READING,
        public ?float $least = null,
        #[Assert\PositiveOrZero(message: 'A loss is 0 or more.')]
        public ?float $loss = null,
        public ?int $strongestId = null,
        public ?int $clearestId = null,
        #[Assert\Length(max: 400, maxMessage: 'A reason has at most 400 letters.')]
        public string $reason = '',
    ) {
    }
}
