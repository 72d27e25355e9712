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
        /** What one step is: so many units more of a number, or days later; 1 for a value of a category. */
        public float $step,
        public bool $days,
        /** The value that "is this value" is told against. */
        public ?string $against,
        /** Of one unit, as are its error and bounds. */
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
