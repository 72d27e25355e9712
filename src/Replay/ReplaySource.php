<?php

declare(strict_types=1);

namespace App\Replay;

/** Where a table of a study's file stands in the study that follows it. */
final readonly class ReplaySource
{
    /**
     * @param 'same'|'missing'|'made here'|'other records'|'other columns' $state   made here: from the others, once they are there
     * @param string                                                       $made    by which combination; empty where it is imported
     * @param list<string>                                                 $lacking columns that it does not have
     */
    public function __construct(public string $name, public int $rows, public string $state, public string $made, public array $lacking)
    {
    }
}
