<?php

declare(strict_types=1);

namespace App\Reasons;

/** Which pairs do more together than any seems to where nothing does. */
final readonly class ClearPairsView
{
    /**
     * @param ?float              $most    the largest size of all draws: what is above it is clear of chance (1 in 20)
     * @param list<ClearPairView> $pairs   those above it, strongest first
     * @param int                 $draws   fits to outcomes in which nothing acts together
     * @param ?float              $seconds that it will take about; null where it is done, or not known
     * @param ?int                $jobId   of the work under way
     */
    public function __construct(
        public ?float $most,
        public array $pairs,
        public int $draws,
        public bool $pending,
        public ?float $seconds,
        public ?int $jobId,
    ) {
    }
}
