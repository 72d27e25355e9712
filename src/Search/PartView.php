<?php

declare(strict_types=1);

namespace App\Search;

/** The tries with one value of a setting, or with values of one range. */
final readonly class PartView
{
    /** @param float $best the best figure reached there */
    public function __construct(
        public string $label,
        public int $tries,
        public float $lowest,
        public float $quarter,
        public float $median,
        public float $threeQuarters,
        public float $highest,
        public float $best,
    ) {
    }
}
