<?php

declare(strict_types=1);

namespace App\Search;

use App\Trial\FigureView;

/** A guided search: what it made of the columns, how its tries climbed, and the best of each learner. */
final readonly class GuidedView
{
    /**
     * @param string          $stage    making, rung 1 to 3, judging or done
     * @param ?float          $minutes  the deadline
     * @param float           $seconds  since it began, or that it took
     * @param ?int            $reading  leaves, rules or terms that the clear finalist may have
     * @param list<string>    $learners titles of those that may be used
     * @param list<IdeaView>  $ideas
     * @param list<RungView>  $rungs
     * @param list<ClimbView> $tries    best first, those of the highest rung before the others
     * @param list<FinalView> $finals   best first
     * @param int             $judging  rows that no choice reads
     * @param int             $choosing rows that choices are made on
     * @param ?string         $variant  letter of the variant that holds the steps
     * @param string          $command  that does it again from a file
     */
    public function __construct(
        public int $id,
        public int $studyId,
        public int $number,
        public string $state,
        public ?string $failure,
        public bool $stale,
        public FigureView $measure,
        public string $stage,
        public ?float $minutes,
        public float $seconds,
        public ?int $reading,
        public array $learners,
        public array $ideas,
        public array $rungs,
        public array $tries,
        public array $finals,
        public int $judging,
        public int $choosing,
        public ?string $variant,
        public string $command,
        public ?int $jobId,
    ) {
    }
}
