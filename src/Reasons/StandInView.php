<?php

declare(strict_types=1);

namespace App\Reasons;

/** A simple model that imitates another one. */
final readonly class StandInView
{
    /**
     * @param ?float              $follows   share of the variance of the model's answers that it follows, on records it did not learn from
     * @param ?float              $agrees    share of these records on the same side of the suggested cut-off
     * @param list<string>        $sentences how it answers: its leaves, or its terms
     * @param ?int                $tree      its place among the trees, smallest first; null for a sum
     * @param list<StandInRecord> $differs   records on which both differ most, of those it did not learn from
     */
    public function __construct(
        public string $title,
        public ?float $follows,
        public ?float $agrees,
        public array $sentences,
        public ?int $tree,
        public array $differs,
    ) {
    }
}
