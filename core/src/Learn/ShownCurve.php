<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** What a column adds. */
final readonly class ShownCurve
{
    /**
     * @param ?string          $class   of several, what it adds to; null where there is one curve only
     * @param bool             $isOrder whether its points are places of a number, or values without an order
     * @param bool             $isDate  whether places are days since 1970
     * @param float            $carries what it adds on average, up or down
     * @param string           $says    in a sentence
     * @param list<ShownPoint> $points
     * @param ?ShownPoint      $missing what a missing value adds, where training rows had such
     */
    public function __construct(
        public string $column,
        public ?string $class,
        public bool $isOrder,
        public bool $isDate,
        public float $carries,
        public string $says,
        public array $points,
        public ?ShownPoint $missing,
    ) {
    }
}
