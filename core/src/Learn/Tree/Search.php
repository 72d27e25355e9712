<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** Looks for the best way to divide the rows of a node by one column. */
interface Search
{
    /** Of gains that differ by less than this, relatively, the first counts: the order of rows must not decide. */
    public const SAME = 1e-9;

    /**
     * @param int         $f      the column
     * @param list<int>   $rows   a row may stand in it more than once
     * @param list<float> $counts weight of each class among them; for a number: weight, sum, sum of squares
     */
    public function best(int $f, array $rows, array $counts): ?Found;
}
