<?php

declare(strict_types=1);

namespace App\Decision;

/** Records in one band of chance and one of value. */
final readonly class TierCellView
{
    /**
     * @param int   $rank    from 1 to 4
     * @param int   $records with an answer and a value
     * @param int   $acted   of them on the list
     * @param float $return  expected of those
     */
    public function __construct(
        public int $chance,
        public int $value,
        public int $rank,
        public int $records,
        public int $acted,
        public float $return,
    ) {
    }
}
