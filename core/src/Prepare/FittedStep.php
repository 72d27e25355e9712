<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Table;

/** A step with what it has learned; RowWise: each row is treated without a look at the others. */
interface FittedStep
{
    /** @throws CannotPrepare when a column that it needs is not there */
    public function apply(Table $table): Table;

    /** What it does, in a plain sentence with the values learned. */
    public function sentence(): string;

    /** @return list<string> the columns it must find to be applied */
    public function needs(): array;

    /** @return array<string, mixed> */
    public function toArray(): array;
}
