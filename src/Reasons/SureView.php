<?php

declare(strict_types=1);

namespace App\Reasons;

use Dokimos\Core\Measure\Interval;

/** How sure an answer is, from records that the models had not seen. */
final readonly class SureView
{
    /**
     * @param ?Interval     $share   of a chance: of events among the records of most similar chance
     * @param ?int          $records how many these are
     * @param ?Interval     $most    of a number: holds what comes in 80 of 100 records
     * @param ?Interval     $nearly  in 95 of 100
     * @param ?list<string> $classes of several: the set that holds what comes in 90 of 100
     */
    public function __construct(
        public ?Interval $share,
        public ?int $records,
        public ?Interval $most,
        public ?Interval $nearly,
        public ?array $classes,
    ) {
    }
}
