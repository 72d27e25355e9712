<?php

declare(strict_types=1);

namespace Dokimos\Core\Combine;

/** What following a combination costs or brings. */
final readonly class CombineToll
{
    /**
     * @param int $unmatched  records whose key is not in the other table; their new cells are missing
     * @param int $keyless    records without a key
     * @param int $multiplied keys that stand more than once in the other table: the first is taken, no record is multiplied
     */
    public function __construct(public int $rowsBefore, public int $rowsAfter, public int $columnsBefore, public int $columnsAfter, public int $unmatched, public int $keyless, public int $multiplied)
    {
    }
}
