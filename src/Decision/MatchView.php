<?php

declare(strict_types=1);

namespace App\Decision;

/** What would be scored with what, and what is wrong, before anything runs. */
final readonly class MatchView
{
    /**
     * @param list<MatchLine> $lines
     * @param list<string>    $problems in sentences; none stops the run
     * @param list<string>    $columns  the columns of the new table, to choose from
     */
    public function __construct(public int $trialId, public int $tableId, public int $rows, public array $lines, public array $problems, public array $columns, public int $unscorable)
    {
    }
}
