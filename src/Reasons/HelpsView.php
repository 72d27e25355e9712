<?php

declare(strict_types=1);

namespace App\Reasons;

/** Which single change would help most of a group. */
final readonly class HelpsView
{
    /**
     * @param int               $records looked at: those called, or those with the highest answers, at most 200
     * @param int               $reach   of them that reach what is wanted as they are
     * @param list<string>      $columns that a change was looked for in, or may be
     * @param list<GroupChange> $changes what helps most first
     */
    public function __construct(public int $records, public int $reach, public array $columns, public array $changes)
    {
    }
}
