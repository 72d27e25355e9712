<?php

declare(strict_types=1);

namespace App\Register;

use App\Question\OpenCells;
use App\Question\Questions;
use App\Table\DataTable;
use App\Table\TableColumn;

/** The outcomes that may be looked at when a column is shown: those of the study's target on rows that are not sealed. */
final readonly class Outcomes
{
    public function __construct(private OpenCells $reader, private Questions $questions)
    {
    }

    /** @return ?list<float> 1, 0, or NAN where unknown or sealed; null when the column is the target or there is none */
    public function of(TableColumn $column): ?array
    {
        return $this->questions->of($column->study())->target() === $column->name() ? null : $this->ofTable($column->table());
    }

    /** @return ?list<float> by row: 1, 0, or NAN where unknown or sealed; null when the study has no target in this table */
    public function ofTable(DataTable $table): ?array
    {
        $study = $table->study();
        $target = $this->questions->of($study)->table() === $table && null !== $this->questions->of($study)->target() ? $table->column($this->questions->of($study)->target()) : null;
        if (null === $target || null === $this->questions->of($study)->event()) {
            return null;
        }
        $event = $this->reader->event($target, $this->questions->of($study)->event());
        foreach ($this->questions->seal($study)->rows() as $row) {
            $event[$row] = \NAN;
        }

        return array_values($event);
    }
}
