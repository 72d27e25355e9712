<?php

declare(strict_types=1);

namespace App\Judgment;

use Dokimos\Core\Measure\Interval;

/** How a trial does on the validation rows of one group. */
final readonly class GroupView
{
    /**
     * @param int       $rows     that it could answer for
     * @param int       $events   with the event; 0 where none is predicted
     * @param Interval  $rate     share with the event, mean of a number; empty for several classes
     * @param Interval  $measured the figure that trials are ranked by, within the group; empty where it takes more rows
     * @param Interval  $caught   of those with the event, called at the cut-off; of several classes, named right
     * @param Interval  $right    of those called, with the event; empty for others
     * @param ?Interval $off      of a number, said less came
     */
    public function __construct(
        public string $name,
        public int $rows,
        public int $unanswered,
        public int $events,
        public Interval $rate,
        public Interval $measured,
        public Interval $caught,
        public Interval $right,
        public ?Interval $off,
    ) {
    }
}
