<?php

declare(strict_types=1);

namespace App\Finding;

use Dokimos\Core\Findings\TargetRelation;

/** What one column tells about the target by itself. */
final readonly class RelationView
{
    /**
     * @param ?float  $alone    how well it ranks rows that it did not learn from, 0.5 = not at all: AUC of an event, the mean AUC of classes,
     *                          concordance of a number; null when it is left out
     * @param ?float  $adjusted p-value corrected for the number of columns
     * @param string  $says     direction in words
     * @param ?float  $lowest   mean outcome (share of events or of the class told) in the column's lowest part; highest likewise
     * @param ?string $leftOut  why it is not ranked
     */
    public function __construct(public string $column, public ?float $alone, public ?float $low, public ?float $high, public ?float $p, public ?float $adjusted, public string $says, public ?float $lowest, public ?float $highest, public bool $late, public ?string $leftOut)
    {
    }

    public static function of(TargetRelation $r): self
    {
        return new self(
            $r->column,
            $r->strength?->alone,
            $r->strength?->low,
            $r->strength?->high,
            $r->strength?->p,
            $r->adjusted,
            $r->says,
            $r->lowest,
            $r->highest,
            $r->late,
            $r->leftOut,
        );
    }
}
