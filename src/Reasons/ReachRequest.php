<?php

declare(strict_types=1);

namespace App\Reasons;

use Symfony\Component\Validator\Constraints as Assert;

/** An answer that is wished for, and what may be changed for it. */
final readonly class ReachRequest
{
    /**
     * @param array<string, string|null> $changes the record begins with
     * @param ?float                     $low     the chance, or the number, at least
     * @param ?float                     $high    at most
     * @param ?string                    $class   of several, the one wanted
     * @param bool                       $other   of several, any class but the likeliest
     * @param list<FreeRequest>          $free    all other columns are fixed
     * @param float                      $likely  least likeness
     * @param list<FollowingRequest>     $follows columns that change with others by a formula
     */
    public function __construct(
        public array $changes = [],
        public ?float $low = null,
        public ?float $high = null,
        public ?string $class = null,
        public bool $other = false,
        #[Assert\Valid]
        public array $free = [],
        #[Assert\Range(min: 0, max: 1, notInRangeMessage: 'Likeness lies between 0 and 1.')]
        public float $likely = 0.05,
        #[Assert\Valid, Assert\Count(max: 20, maxMessage: 'At most 20 columns follow others.')]
        public array $follows = [],
    ) {
    }
}
