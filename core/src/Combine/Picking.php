<?php

declare(strict_types=1);

namespace Dokimos\Core\Combine;

/** A combination that takes some of a table's records as they are; of the others it reads nothing, so that the table may be of any size. */
interface Picking extends Combination
{
    /** How many of so many records are taken. */
    public function count(int $rows): int;

    /** @return \Generator<int, int> their rows, ascending */
    public function rows(int $rows): \Generator;
}
