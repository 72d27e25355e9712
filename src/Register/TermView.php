<?php

declare(strict_types=1);

namespace App\Register;

/** A word of a text column: in how many texts it is, and the event's share among those. */
final readonly class TermView
{
    /** @param ?float $p that the term has nothing to do with the event, for all terms together; null without a target */
    public function __construct(
        public string $term,
        public int $texts,
        public int $judged,
        public ?float $share,
        public ?float $low,
        public ?float $high,
        public ?float $p,
    ) {
    }
}
