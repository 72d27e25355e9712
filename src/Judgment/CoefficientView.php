<?php

declare(strict_types=1);

namespace App\Judgment;

/** A coefficient with its Wald statistics; null where they do not exist. */
final readonly class CoefficientView
{
    public function __construct(
        public string $name,
        public float $estimate,
        public ?float $se,
        public ?float $z,
        public ?float $p,
        public ?float $low,
        public ?float $high,
        public float $oddsRatio,
        public ?float $oddsLow,
        public ?float $oddsHigh,
    ) {
    }
}
