<?php

declare(strict_types=1);

namespace App\Judgment;

use Dokimos\Core\Measure\Interval;

/** A cut-off found by a figure or by costs, and what that is worth on rows that did not choose it. */
final readonly class FoundCutOffView
{
    /**
     * @param float    $cutoff   to use
     * @param Interval $expected on folds that did not choose; costs are those of a hundred records. Without a value where rows are divided
     *                           once
     * @param float    $seen     on the rows that chose it
     * @param float    $from     the lowest that a fold's training rows found
     * @param float    $to       the highest
     */
    public function __construct(
        public string $by,
        public float $cutoff,
        public Interval $expected,
        public float $seen,
        public float $from,
        public float $to,
    ) {
    }
}
