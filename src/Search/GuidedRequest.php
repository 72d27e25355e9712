<?php

declare(strict_types=1);

namespace App\Search;

use Symfony\Component\Validator\Constraints as Assert;

/** Asks for a guided search. */
final readonly class GuidedRequest
{
    /**
     * @param ?float       $minutes deadline; or tries
     * @param ?int         $tries   of the first rung, instead of a deadline
     * @param ?int         $reading leaves, rules or terms that the clear finalist may have at most; null = no limit
     * @param list<string> $without learners that may not be used
     */
    public function __construct(
        #[Assert\Positive(message: 'Choose the preparation variant to begin with.')]
        public int $variantId = 0,
        #[Assert\Range(min: 0.5, max: 1440, notInRangeMessage: 'A deadline is half a minute to a day.')]
        public ?float $minutes = null,
        #[Assert\Range(min: 4, max: 2000, notInRangeMessage: 'A guided search begins with 4 to 2,000 tries.')]
        public ?int $tries = null,
        #[Assert\Range(min: 1, max: 100000, notInRangeMessage: 'What may be read is 1 to 100,000 leaves, rules or terms.')]
        public ?int $reading = 30,
        #[Assert\All([new Assert\Type('string')])]
        public array $without = [],
        public int $seed = 2026,
    ) {
    }
}
