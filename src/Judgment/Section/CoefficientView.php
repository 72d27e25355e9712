<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use Dokimos\Core\Explain\Step;
use Dokimos\Core\Learn\ShownCoefficient;

/** A coefficient with its test, null where there is none; odds ratios belong to chances, the inflation of its variance to numbers. */
final readonly class CoefficientView
{
    public function __construct(
        public string $name,
        /** Of several classes the one against the first. */
        public ?string $class,
        /** What one step is, in units of the model: so many more of a number, or days later; 1 for a value of a category. */
        public float $step,
        /** The same in units of the column as it came, which a step of the preparation may have rescaled. */
        public float $told,
        /** Whether the column was changed otherwise: told is in units of the prepared column. */
        public bool $changed,
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

    public static function told(Step $step, ShownCoefficient $c, bool $days, ?string $against): self
    {
        return new self(
            $c->name,
            $c->class,
            $step->units,
            $step->told,
            $step->changed,
            $days,
            $against,
            $c->estimate,
            $c->error,
            $c->ratio,
            $c->p,
            $c->low,
            $c->high,
            $c->oddsRatio,
            $c->oddsLow,
            $c->oddsHigh,
            $c->inflation,
        );
    }
}
