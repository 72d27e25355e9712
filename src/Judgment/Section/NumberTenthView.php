<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** A tenth of the rows by what was predicted. */
final readonly class NumberTenthView
{
    /**
     * @param float $low of the actual values the tenth hundredth; middle the half, high nine tenths
     * @param float $off actual less predicted: mean, then hundredths 5, 25, 75 and 95
     */
    public function __construct(
        public float $predicted,
        public float $low,
        public float $middle,
        public float $high,
        public float $off,
        public float $offLow,
        public float $offQuarter,
        public float $offThreeQuarters,
        public float $offHigh,
        public int $rows,
    ) {
    }

    /** @return list<self> */
    public static function all(mixed $kept): array
    {
        $views = [];
        foreach (\is_array($kept) ? $kept : [] as $t) {
            /** @var array{predicted: float|int, low: float|int, middle: float|int, high: float|int, off: float|int, offLow: float|int, offQuarter: float|int, offThreeQuarters: float|int, offHigh: float|int, rows: int} $t */
            $views[] = new self(
                (float) $t['predicted'],
                (float) $t['low'],
                (float) $t['middle'],
                (float) $t['high'],
                (float) $t['off'],
                (float) $t['offLow'],
                (float) $t['offQuarter'],
                (float) $t['offThreeQuarters'],
                (float) $t['offHigh'],
                $t['rows'],
            );
        }

        return $views;
    }
}
