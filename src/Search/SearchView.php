<?php

declare(strict_types=1);

namespace App\Search;

use App\Trial\FigureView;

/** A search: what was tried, what each setting did, and the best with its luck taken out. */
final readonly class SearchView
{
    /**
     * @param FigureView           $measure   that it ran for
     * @param int                  $done      settings weighed
     * @param int                  $failed    of these, settings that could not be fitted
     * @param float                $seconds   of all fits together, as in one process
     * @param list<TryView>        $best      the best tries, best first
     * @param list<TryView>        $failures  some that could not be fitted
     * @param list<EffectView>     $effects   of the learner of the best, the strongest first
     * @param ?float               $searching the best figure while searching
     * @param ?float               $luck      what being chosen had added to it
     * @param ?float               $value     with the luck taken out, and its interval
     * @param array<string, mixed> $asked     what it weighs, to be asked anew with other ranges
     * @param ?int                 $jobId     of the work under way
     */
    public function __construct(
        public int $id,
        public int $studyId,
        public int $number,
        public string $state,
        public ?string $failure,
        public bool $stale,
        public FigureView $measure,
        public string $way,
        public int $done,
        public int $tries,
        public int $failed,
        public float $seconds,
        public array $best,
        public array $failures,
        public array $effects,
        public ?MapView $map,
        public ?float $searching,
        public ?float $luck,
        public ?float $value,
        public ?float $low,
        public ?float $high,
        public ?int $trialId,
        public ?int $trialNumber,
        public array $asked,
        public ?int $jobId,
    ) {
    }
}
