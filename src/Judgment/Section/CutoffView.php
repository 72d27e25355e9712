<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use Dokimos\Core\Measure\Interval;

/** What calling from a chance on comes to: counts, and each share with its interval. */
final readonly class CutoffView
{
    public function __construct(
        public float $cutoff,
        public int $tp,
        public int $fp,
        public int $fn,
        public int $tn,
        public Interval $accuracy,
        public Interval $precision,
        public Interval $recall,
        public Interval $specificity,
        public Interval $f1,
    ) {
    }

    /** @return list<self> lowest first */
    public static function all(mixed $kept): array
    {
        $views = [];
        foreach (\is_array($kept) ? $kept : [] as $at) {
            /** @var array{cutoff: float|int, tp: int, fp: int, fn: int, tn: int, accuracy: array<string, ?float>, precision: array<string, ?float>, recall: array<string, ?float>, specificity: array<string, ?float>, f1: array<string, ?float>} $at */
            $views[] = new self(
                (float) $at['cutoff'],
                $at['tp'],
                $at['fp'],
                $at['fn'],
                $at['tn'],
                new Interval(...$at['accuracy']),
                new Interval(...$at['precision']),
                new Interval(...$at['recall']),
                new Interval(...$at['specificity']),
                new Interval(...$at['f1']),
            );
        }

        return $views;
    }
}
