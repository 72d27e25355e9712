<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Table;

/** A step that takes rows out: training rows are not learned from, new records are listed as not scored, with the reason. */
interface TakesOut extends FittedStep
{
    /** @return array<int, string> why, by row */
    public function out(Table $table): array;
}
