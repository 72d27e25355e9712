<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

/** What a cut-off does to one group, with intervals that hold for all groups at once. */
final readonly class GroupAtRisk
{
    /**
     * @param int          $rows   answered
     * @param int          $events among them
     * @param Interval     $caught of those with the event, called
     * @param Interval     $vain   of those called, without the event
     * @param Interval     $off    the event less often than said (above 0) or more often: mean chance less share
     * @param list<string> $says   where it stands apart from all others
     */
    public function __construct(
        public string $by,
        public string $name,
        public int $rows,
        public int $events,
        public Interval $caught,
        public Interval $vain,
        public Interval $off,
        public array $says,
    ) {
    }
}
