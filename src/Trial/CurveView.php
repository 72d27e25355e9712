<?php

declare(strict_types=1);

namespace App\Trial;

/** A learning curve. */
final readonly class CurveView
{
    /**
     * @param list<CurvePoint> $points [] before it was drawn
     * @param ?float           $gain   from 70 to 100 % of the training rows, 0 or more where it is better, with its interval
     * @param ?string          $says   whether more records would help; null where the interval holds nothing, so that it cannot be told
     * @param ?int             $jobId  of the work under way
     */
    public function __construct(
        public FigureView $measure,
        public array $points,
        public ?float $gain,
        public ?float $low,
        public ?float $high,
        public ?string $says,
        public ?int $jobId,
    ) {
    }
}
