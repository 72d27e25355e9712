<?php

declare(strict_types=1);

namespace App\Trial;

/** The strongest trial, the clearest that is good enough, and what the clear one loses. */
final readonly class FinalistsView
{
    /**
     * @param int    $reading   leaves, rules or terms that may be read at most
     * @param ?float $least     figure that the clearest has to reach
     * @param ?float $loss      against the strongest that it may have at most
     * @param ?int   $strongest id of the trial; null where none has a figure
     * @param ?int   $clearest  id of the trial; null where none is within the limits
     * @param bool   $byHand    whether a person chose one of them
     * @param string $reason    why, if so
     * @param ?float $price     what the clearest loses, both having been chosen, with its interval; null where it cannot be told
     * @param bool   $pending   whether the price is still being worked out
     * @param ?float $reached   share of the events in the 30 of 100 records that the strongest puts first
     * @param ?float $clearer   the same of the clearest
     */
    public function __construct(
        public int $reading,
        public ?float $least,
        public ?float $loss,
        public ?int $strongest,
        public ?int $clearest,
        public bool $byHand,
        public string $reason,
        public ?float $price,
        public ?float $low,
        public ?float $high,
        public bool $pending,
        public ?float $reached,
        public ?float $clearer,
    ) {
    }
}
