<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Table;

/** One treatment of a table: settings only; what it learns from data is in the fitted step. */
interface Step
{
    /** Changes when the same settings would give other cells; part of what makes a result stale. */
    public const VERSION = 1;

    /** @return array<string, mixed> with the key "step" naming the kind of step */
    public function toArray(): array;

    /**
     * @param list<int> $training the rows it may learn from
     *
     * @throws CannotPrepare
     */
    public function fit(Table $table, array $training): FittedStep;
}
