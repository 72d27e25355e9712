<?php

declare(strict_types=1);

namespace App\Judgment;

/** A figure of one trial, and how far it is from that of the first. */
final readonly class DifferenceView
{
    /**
     * @param ?float $difference this one less the first; null for the first itself
     * @param ?float $low        of the interval that holds for all pairs of trials at once
     * @param ?bool  $noise      whether the two are not told apart; null where they cannot be compared
     */
    public function __construct(
        public ?float $value,
        public ?float $difference,
        public ?float $low,
        public ?float $high,
        public ?bool $noise,
    ) {
    }
}
