<?php

declare(strict_types=1);

namespace App\Table;

use App\Question\OpenCells;
use App\Question\Seal;

/** The outcomes that may be looked at when a column is shown: those of the study's target on rows that are not sealed. */
final readonly class Outcomes
{
    public function __construct(private OpenCells $reader)
    {
    }

    /** @return ?list<float> 1, 0, or NAN where unknown or sealed; null when the column is the target or there is none */
    public function of(TableColumn $column): ?array
    {
        return $column->study()->target() === $column->name() ? null : $this->ofTable($column->table());
    }

    /** @return ?list<float> by row: 1, 0, or NAN where unknown or sealed; null when the study has no target in this table */
    public function ofTable(DataTable $table): ?array
    {
        $study = $table->study();
        $target = $study->table() === $table && null !== $study->target() ? $table->column($study->target()) : null;
        if (null === $target || null === $study->event()) {
            return null;
        }
        $event = $this->reader->event($target, $study->event());
        foreach (Seal::of($study)->rows() as $row) {
            $event[$row] = \NAN;
        }

        return array_values($event);
    }
}
