<?php

declare(strict_types=1);

namespace App\Trial;

/** All trials of a study, best first, beside the baseline. */
final readonly class StandingsView
{
    /**
     * @param list<TrialView>    $trials
     * @param FigureView         $measure     the figure that trials are ranked by
     * @param string             $measureSays what it means to somebody who decides
     * @param ?float             $baseline    what doing nothing clever scores
     * @param list<DistanceView> $distances   of each trial to the leader
     * @param ?float             $luck        how much of the leader's figure is luck of being chosen, from five trials on
     * @param list<RankingView>  $rankings    the figures that trials can be ranked by
     */
    public function __construct(
        public array $trials,
        public string $task,
        public FigureView $measure,
        public string $measureTitle,
        public string $measureSays,
        public ?float $baseline,
        public ?float $baseRate,
        public array $distances,
        public int $folds,
        public int $repeats,
        public int $sealedRows,
        public int $sealOpenings,
        public ?float $luck,
        public array $rankings,
        public FinalistsView $finalists,
    ) {
    }
}
