<?php

declare(strict_types=1);

namespace App\Judgment;

/** A coefficient with its test, null where there is none; odds ratios belong to chances, the inflation of its variance to numbers. */
final readonly class CoefficientView
{
    public function __construct(
        public string $name,
        /** Of several classes the one against the first. */
        public ?string $class,
        public float $estimate,
        public ?float $se,
        /** Estimate by error: z, or t for a number. */
        public ?float $z,
        public ?float $p,
        public ?float $low,
        public ?float $high,
        public ?float $oddsRatio,
        public ?float $oddsLow,
        public ?float $oddsHigh,
        public ?float $vif,
    ) {
    }
}
