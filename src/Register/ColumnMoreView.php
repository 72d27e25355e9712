<?php

declare(strict_types=1);

namespace App\Register;

use App\Source\FitsView;

/** What more there is to know about a column: its frequent values, the records at its ends, its words. */
final readonly class ColumnMoreView
{
    /**
     * @param list<DistributionPart> $values  the most frequent first
     * @param list<ExtremeView>      $lowest  the lowest first; for text the shortest
     * @param list<ExtremeView>      $highest the highest first; for text the longest
     * @param list<TermView>         $terms   of a text: the most telling first where there is a target, else the most frequent
     * @param ?int                   $looked  records of a large table that this is told of, evenly spread; null = all
     */
    public function __construct(
        public array $values,
        public array $lowest,
        public array $highest,
        public array $terms,
        public FitsView $fits,
        public ?int $looked,
    ) {
    }
}
