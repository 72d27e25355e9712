<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/** The cells of one column, in row order. Immutable. */
interface Column
{
    public function kind(): Kind;

    public function count(): int;

    public function missing(): int;

    public function isMissing(int $row): bool;

    /** The cell as written in an open format; null = missing. */
    public function text(int $row): ?string;

    /**
     * The cells of the given rows, in that order.
     *
     * @param list<int> $rows
     */
    public function take(array $rows): static;
}
