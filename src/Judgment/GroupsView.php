<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Trial\FigureView;

/** A trial's figures by the values of one column. */
final readonly class GroupsView
{
    /**
     * @param list<string>    $columns that rows can be grouped by
     * @param list<GroupView> $groups  in the column's order
     * @param GroupView       $all     with the trial's own figure
     * @param ?float          $within  the figure within groups, as the mean over their rows: what each is held against
     * @param list<string>    $worse   groups below it by more than noise, held against all groups at once
     */
    public function __construct(
        public string $by,
        public array $columns,
        public FigureView $measure,
        public array $groups,
        public GroupView $all,
        public ?float $within,
        public array $worse,
    ) {
    }
}
