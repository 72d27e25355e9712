<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Table;

/**
 * A step that learned from the target. The rows it learned from get what the other parts of them say, so that no row meets its own
 * outcome; all others get what all of them say.
 */
interface OutOfFold extends FittedStep
{
    /** @param Table $table the very table it was fitted on */
    public function applyWhereLearned(Table $table): Table;
}
