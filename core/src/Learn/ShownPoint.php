<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A stretch of a curve, or a value of a category. */
final readonly class ShownPoint
{
    /**
     * @param string $label in words
     * @param ?float $from  where the stretch begins
     * @param ?float $to    and ends
     * @param float  $adds  the mean over bags
     * @param float  $low   less its spread over bags, twice
     * @param float  $high  more its spread over bags, twice
     * @param float  $rows  training rows there
     */
    public function __construct(
        public string $label,
        public ?float $from,
        public ?float $to,
        public float $adds,
        public float $low,
        public float $high,
        public float $rows,
    ) {
    }
}
