<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** Looks for the best way to divide the rows of a node. */
interface Search
{
    /** Of gains that differ by less than this, relatively, the first counts: the order of rows must not decide. */
    public const SAME = 1e-9;

    /**
     * @param list<int>   $features columns to compare
     * @param list<int>   $rows
     * @param list<float> $counts   weight of each class among them; for a number: weight, sum, sum of squares
     *
     * @return ?Found of columns that gain the same the first
     */
    public function among(array $features, array $rows, array $counts): ?Found;

    /** The same on the same rows, drawn anew. */
    public function on(Cells $drawn): self;
}
