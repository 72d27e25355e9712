<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Judgment\Section\LostView;
use App\Trial\FigureView;

/** What a figure loses when columns are shuffled, alone and with those they go together with. */
final readonly class ShuffledView
{
    /**
     * @param int                    $repeats shuffles of each column
     * @param list<FigureView>       $figures it could be asked by
     * @param list<LostView>         $columns most first; none before a worker has looked
     * @param list<LostTogetherView> $groups  columns that go together, shuffled as one
     * @param ?float                 $seconds that it will take about; null where it is done, or not known
     * @param ?int                   $jobId   of the work under way
     */
    public function __construct(
        public FigureView $measure,
        public int $repeats,
        public array $figures,
        public array $columns,
        public array $groups,
        public bool $pending,
        public ?float $seconds,
        public ?int $jobId,
    ) {
    }
}
