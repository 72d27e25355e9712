<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A rule as a line of a ledger. */
final readonly class ShownRule
{
    /**
     * @param string $class         what it points to
     * @param string $sql           the same as a condition of SQL, on the columns as prepared
     * @param float  $rows          that did not grow the rules and that it answers for
     * @param float  $hits          of those, rows of the class
     * @param float  $grown         rows that grew it
     * @param float  $trainingShare of the class among those
     * @param float  $chance        what it answers for the class
     * @param float  $overall       share of the class among all rows that grew rules
     */
    public function __construct(
        public string $says,
        public string $class,
        public float $rows,
        public float $hits,
        public float $grown,
        public float $trainingShare,
        public float $chance,
        public float $overall,
        public string $sql,
    ) {
    }
}
