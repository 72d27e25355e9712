<?php

declare(strict_types=1);

namespace App\Judgment;

/** A trial's figures by the values of one column. */
final readonly class GroupsView
{
    /**
     * @param list<string>    $columns that rows can be grouped by
     * @param list<GroupView> $groups  in the column's order
     */
    public function __construct(public string $by, public array $columns, public string $measure, public array $groups, public GroupView $all)
    {
    }
}
