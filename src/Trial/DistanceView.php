<?php

declare(strict_types=1);

namespace App\Trial;

/** How far a trial is from the leader, on the rows that both answer for. */
final readonly class DistanceView
{
    /**
     * @param ?float $low      of the interval that holds for all pairs of trials at once
     * @param ?float $p        of this pair alone
     * @param ?float $adjusted for all pairs, since the leader was chosen among them
     * @param ?bool  $noise    whether the two are not told apart; null where they cannot be compared, as when one is of other rows or an older form
     * @param bool   $pending  whether the two have still to be compared
     * @param int    $both     rows that both answer for; the difference is on these
     */
    public function __construct(
        public int $trialId,
        public float $difference,
        public ?float $low,
        public ?float $high,
        public ?float $p,
        public ?float $adjusted,
        public ?bool $noise,
        public int $both,
        public bool $pending,
    ) {
    }
}
