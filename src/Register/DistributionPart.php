<?php

declare(strict_types=1);

namespace App\Register;

/** A bin or a value of a distribution; share is the event's among its unsealed records, with Wilson's interval. */
final readonly class DistributionPart
{
    public function __construct(
        public string $label,
        public ?float $low,
        public ?float $high,
        public int $count,
        public int $judged,
        public ?int $events,
        public ?float $share,
        public ?float $shareLow,
        public ?float $shareHigh,
    ) {
    }
}
