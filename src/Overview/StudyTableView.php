<?php

declare(strict_types=1);

namespace App\Overview;

/** A table in a study's thread. */
final readonly class StudyTableView
{
    public function __construct(public int $id, public string $name, public string $state, public int $rows, public int $columns, public int $edition)
    {
    }
}
