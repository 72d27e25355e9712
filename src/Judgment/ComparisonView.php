<?php

declare(strict_types=1);

namespace App\Judgment;

/** Two to four variants side by side. */
final readonly class ComparisonView
{
    /**
     * @param list<ComparedView>      $variants
     * @param list<ColumnsBesideView> $columns  every column that one of them has
     */
    public function __construct(public int $rowsBefore, public bool $approximate, public array $variants, public array $columns)
    {
    }
}
