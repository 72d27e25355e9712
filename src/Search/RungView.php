<?php

declare(strict_types=1);

namespace App\Search;

/** A rung of a guided search. */
final readonly class RungView
{
    /**
     * @param int    $rows that its tries learn from and are weighed on
     * @param ?float $best figure while searching
     */
    public function __construct(
        public string $name,
        public int $rows,
        public int $folds,
        public int $tries,
        public int $done,
        public float $seconds,
        public ?float $best,
    ) {
    }
}
