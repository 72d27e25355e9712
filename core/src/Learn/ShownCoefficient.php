<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A coefficient as it is told, of one unit of its term; null where there is no such figure. */
final readonly class ShownCoefficient
{
    /**
     * @param ?string $class     of several classes the one against the first
     * @param ?float  $error     standard error
     * @param ?float  $ratio     estimate by error: z, or t of a number
     * @param ?float  $inflation of its variance by overlap with other terms (VIF)
     */
    public function __construct(public string $name, public ?string $class, public float $estimate, public ?float $error, public ?float $ratio, public ?float $p, public ?float $low, public ?float $high, public ?float $oddsRatio = null, public ?float $oddsLow = null, public ?float $oddsHigh = null, public ?float $inflation = null)
    {
    }
}
