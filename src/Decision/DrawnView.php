<?php

declare(strict_types=1);

namespace App\Decision;

/** How far the return may lie from what is expected: 90 of 100 draws lie between. */
final readonly class DrawnView
{
    /** @param float $loss share of draws that return less than nothing */
    public function __construct(
        public float $low,
        public float $high,
        public float $loss,
        public float $preventedLow,
        public float $preventedHigh,
    ) {
    }
}
