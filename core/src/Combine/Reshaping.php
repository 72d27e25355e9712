<?php

declare(strict_types=1);

namespace Dokimos\Core\Combine;

use Dokimos\Core\Table\Table;

/** A combination that has to see all records of a table, and of the other one where it has one. */
interface Reshaping extends Combination
{
    /** What it would do, counted before it is done. */
    public function toll(Table $table, ?Table $other): CombineToll;

    public function apply(Table $table, ?Table $other): Table;
}
