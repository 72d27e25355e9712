<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Trial\FigureView;
use App\Trial\TrialView;
use Dokimos\Core\Measure\Interval;

/** Two trials on the same validation rows. Differences are the first less the second. */
final readonly class AgainstView
{
    /**
     * @param int       $rows          that both could answer for
     * @param ?Interval $byFolds       of the figure that trials are ranked by, fold by fold; none where the folds differ
     * @param ?float    $foldsP        chance of folds that far apart if they were alike
     * @param ?float    $foldsAdjusted the same for all pairs of the study's trials
     * @param ?bool     $noise         whether the two are not told apart, as the Standings say; null where there is no test
     * @param ?Interval $byRanking     of the AUC on the rows of both (DeLong)
     * @param string    $loss          what is lost on a row
     * @param Interval  $byRows        of that loss
     * @param ?float    $correlation   of what both say
     * @param ?float    $cutoff        that right and wrong go by
     * @param ?float    $decisionsP    chance of so lopsided a difference if both were right equally often (McNemar, exact)
     */
    public function __construct(
        public TrialView $one,
        public TrialView $other,
        public FigureView $measure,
        public int $rows,
        public ?Interval $byFolds,
        public ?float $foldsP,
        public ?float $foldsAdjusted,
        public ?bool $noise,
        public ?Interval $byRanking,
        public ?float $rankingP,
        public string $loss,
        public Interval $byRows,
        public ?float $correlation,
        public ?float $cutoff,
        public ?int $bothRight,
        public ?int $onlyOne,
        public ?int $onlyOther,
        public ?int $bothWrong,
        public ?float $decisionsP,
    ) {
    }
}
