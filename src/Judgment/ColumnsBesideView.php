<?php

declare(strict_types=1);

namespace App\Judgment;

/** One column in each of the variants compared. */
final readonly class ColumnsBesideView
{
    /**
     * @param list<?string>      $kinds   null where it is not there
     * @param list<?int>         $missing
     * @param list<list<string>> $labels  of the bins or values counted; none for texts
     * @param list<list<int>>    $counts
     */
    public function __construct(public string $name, public array $kinds, public array $missing, public array $labels, public array $counts)
    {
    }
}
