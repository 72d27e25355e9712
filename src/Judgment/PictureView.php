<?php

declare(strict_types=1);

namespace App\Judgment;

/** Picked records on two columns, laid over all the others. */
final readonly class PictureView
{
    /**
     * @param list<string>                   $columns that may be drawn on
     * @param list<array{float, float, int}> $picked  x, y, number of the record; the most mistaken where there are too many
     * @param list<array{float, float}>      $others  evenly spread over the rows where there are too many
     * @param int                            $total   picked records
     * @param int                            $missing of them, without a value in one of the two columns
     * @param int                            $rest    other records
     */
    public function __construct(
        public AxisView $x,
        public AxisView $y,
        public array $columns,
        public array $picked,
        public array $others,
        public int $total,
        public int $missing,
        public int $rest,
    ) {
    }
}
