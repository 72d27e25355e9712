<?php

declare(strict_types=1);

namespace App\Register;

/** The event's share among some records whose outcome is known and not sealed, with its 95 % interval, against that of all. */
final readonly class ShareView
{
    public function __construct(
        public string $event,
        public int $hits,
        public int $judged,
        public ?float $value,
        public ?float $low,
        public ?float $high,
        public ?float $overall,
    ) {
    }
}
