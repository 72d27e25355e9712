<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Table\Table;

/** A model that answers by the training rows most like a record. */
interface ShowsNeighbors extends Model
{
    /** How many it asks. */
    public function asked(): int;

    /**
     * @param Table $prepared a record
     *
     * @return list<array{row: int, distance: float, outcome: float}> rows of the table it was fitted on, the nearest first
     */
    public function neighbors(Table $prepared, int $row, int $many): array;

    /**
     * @return list<array{k: int, loss: float}> loss on inner folds of each number of neighbors that was weighed; none where it was given
     */
    public function weighed(): array;
}
