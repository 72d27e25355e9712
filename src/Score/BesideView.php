<?php

declare(strict_types=1);

namespace App\Score;

/** Two batches over the same records: how far their answers go together, and where they differ most. */
final readonly class BesideView
{
    /**
     * @param int                 $both      records with an answer in both
     * @param ?float              $agree     share of records called, or classed, alike; null for numbers
     * @param int                 $onlyFirst called by this one alone
     * @param int                 $onlyOther called by the other alone
     * @param ?float              $ranks     rank correlation of what records are ordered by
     * @param ?float              $apart     mean difference of the answers, whatever its sign; null for several classes
     * @param list<BesideRowView> $most      records on which they differ most
     */
    public function __construct(
        public int $firstTrial,
        public int $otherTrial,
        public int $both,
        public ?float $agree,
        public int $onlyFirst,
        public int $onlyOther,
        public ?float $ranks,
        public ?float $apart,
        public array $most,
    ) {
    }
}
