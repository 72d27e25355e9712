<?php

declare(strict_types=1);

namespace App\Decision;

use Dokimos\Core\Act\MeasuredEffect;
use Dokimos\Core\Measure\Interval;

/** What a later table showed of the effect, judged by assignment. */
final readonly class MeasuredView
{
    /**
     * @param Interval $works       share of events prevented
     * @param bool     $contradicts whether the whole interval lies outside what was thought
     * @param int      $missing     records of the list that the later table does not hold
     */
    public function __construct(
        public string $tableName,
        public int $acted,
        public int $actedEvents,
        public int $left,
        public int $leftEvents,
        public Interval $actedRate,
        public Interval $leftRate,
        public Interval $works,
        public bool $contradicts,
        public int $missing,
    ) {
    }

    public static function of(string $tableName, MeasuredEffect $effect, DecisionTerms $terms, int $missing): self
    {
        return new self(
            $tableName,
            $effect->acted,
            $effect->actedEvents,
            $effect->left,
            $effect->leftEvents,
            $effect->actedRate,
            $effect->leftRate,
            $effect->works,
            $effect->contradicts([$terms->worksLow, $terms->worksHigh]),
            $missing,
        );
    }
}
