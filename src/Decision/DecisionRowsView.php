<?php

declare(strict_types=1);

namespace App\Decision;

/** A page of a list. */
final readonly class DecisionRowsView
{
    /**
     * @param list<string>          $names of the carried columns
     * @param list<DecisionRowView> $rows
     */
    public function __construct(public int $total, public int $offset, public array $names, public array $rows)
    {
    }
}
