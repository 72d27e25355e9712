<?php

declare(strict_types=1);

namespace App\Reasons;

/** What one column does to an answer, or two or three that something is made of together. */
final readonly class AccountLine
{
    /**
     * @param string  $column  the name; of several their names joined by "and", as their values are
     * @param float   $effect  a chance from 0 to 1, or the unit of the number
     * @param float   $error   standard error of the effect
     * @param ?float  $own     the effect on the model's own scale, where that is another
     * @param ?float  $lost    what the ranking figure loses over all records when the column is shuffled
     * @param ?string $unusual why the value is rare among records seen; null when it is not
     */
    public function __construct(
        public string $column,
        public ?string $value,
        public float $effect,
        public float $error,
        public ?float $own,
        public ?float $lost,
        public ?string $unusual,
    ) {
    }
}
