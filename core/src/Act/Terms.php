<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

/** What acting on each record is expected to return, and what acting on a set of them costs and brings. */
interface Terms
{
    /** @return list<float> expected of each record; NAN where it cannot be told */
    public function returns(): array;

    /** @param list<int> $rows */
    public function figures(array $rows): SetFigures;
}
