<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** A tenth of the rows by chance, the highest first. */
final readonly class TenthView
{
    /**
     * @param ?float $lift   share with the event, over that of all rows
     * @param ?float $caught share of all events in this tenth and those before it
     */
    public function __construct(
        public int $tenth,
        public int $rows,
        public float $events,
        public float $rate,
        public ?float $rateLow,
        public ?float $rateHigh,
        public ?float $lift,
        public ?float $caught,
    ) {
    }

    /** @return list<self> */
    public static function all(mixed $kept): array
    {
        $views = [];
        foreach (\is_array($kept) ? $kept : [] as $t) {
            /** @var array{decile: int, n: int, positives: float|int, rate: float|int, rateLow?: ?float, rateHigh?: ?float, lift: float|int|null, cumulative_gain: float|int|null} $t */
            $views[] = new self(
                $t['decile'],
                $t['n'],
                (float) $t['positives'],
                (float) $t['rate'],
                $t['rateLow'] ?? null,
                $t['rateHigh'] ?? null,
                isset($t['lift']) ? (float) $t['lift'] : null,
                isset($t['cumulative_gain']) ? (float) $t['cumulative_gain'] : null,
            );
        }

        return $views;
    }
}
