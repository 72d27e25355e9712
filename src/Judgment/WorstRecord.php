<?php

declare(strict_types=1);

namespace App\Judgment;

/** A validation row that a trial got wrong. */
final readonly class WorstRecord
{
    /**
     * @param ?string           $saidClass the class with the largest chance, when there are several
     * @param float             $said      the number predicted, or the largest chance
     * @param ?float            $came      the number that came
     * @param float             $off       came less said, or the chance of the class that came
     * @param list<string|null> $cells
     */
    public function __construct(
        public int $number,
        public ?string $saidClass,
        public ?string $cameClass,
        public float $said,
        public ?float $came,
        public float $off,
        public array $cells,
    ) {
    }
}
