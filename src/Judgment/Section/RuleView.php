<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** A rule as a line of a ledger: rows, share and interval are those of rows that grew neither tree nor rules. */
final readonly class RuleView
{
    /**
     * @param string $says          what a record has to be
     * @param string $class         what it points to
     * @param ?float $share         of that class among the rows judged by
     * @param float  $trainingShare of the rows that grew it
     * @param float  $chance        what it answers for its class
     * @param string $verdict       as of a leaf
     */
    public function __construct(
        public int $number,
        public string $says,
        public string $class,
        public int $rows,
        public ?float $share,
        public ?float $low,
        public ?float $high,
        public int $trainingRows,
        public float $trainingShare,
        public float $chance,
        public string $verdict,
    ) {
    }
}
