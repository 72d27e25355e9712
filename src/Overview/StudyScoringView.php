<?php

declare(strict_types=1);

namespace App\Overview;

/** A batch in a study's thread. */
final readonly class StudyScoringView
{
    public function __construct(public int $id, public string $tableName, public int $rows, public int $called, public string $state)
    {
    }
}
