<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** Rows of about the same chance: what was given, and the share that came with its interval. */
final readonly class CalibrationView
{
    /**
     * @param float $low  of the chances given
     * @param float $mean of the chances given
     */
    public function __construct(
        public float $low,
        public float $high,
        public int $rows,
        public float $mean,
        public int $events,
        public float $rate,
        public ?float $rateLow,
        public ?float $rateHigh,
    ) {
    }

    /** @return list<self> */
    public static function all(mixed $kept): array
    {
        $views = [];
        foreach (\is_array($kept) ? $kept : [] as $b) {
            /** @var array{low: float|int, high: float|int, n: int, mean_score: float|int, positives: float|int, rate: float|int, rateLow?: ?float, rateHigh?: ?float} $b */
            $views[] = new self(
                (float) $b['low'],
                (float) $b['high'],
                $b['n'],
                (float) $b['mean_score'],
                (int) $b['positives'],
                (float) $b['rate'],
                $b['rateLow'] ?? null,
                $b['rateHigh'] ?? null,
            );
        }

        return $views;
    }
}
