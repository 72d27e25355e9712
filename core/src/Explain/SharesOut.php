<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Table\Table;

/** Shares an answer out among players, exactly, against background records. */
interface SharesOut
{
    /** The mean answer for the background records. */
    public function base(): float;

    /**
     * @param int $players as many as there are
     *
     * @return list<float> per player; they add up to the record's answer less the base
     */
    public function of(Table $table, int $row, int $players): array;
}
