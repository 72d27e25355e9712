<?php

declare(strict_types=1);

namespace App\Service;

/** Calls of one day. */
final readonly class DayView
{
    public function __construct(
        public string $day,
        public int $version,
        public int $calls,
        public int $records,
        public int $refused,
        public ?float $half,
        public ?float $most,
    ) {
    }
}
