<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Boosting;

/** How large a tree of the boosting may grow, and how it is held back. */
final readonly class TreeLimits
{
    /**
     * @param int       $leaves at most
     * @param int       $depth  questions in a row, at most
     * @param float     $rows   in a leaf, at least
     * @param float     $ridge  added to the curvature of each leaf
     * @param list<int> $rising per column: 1 = the answer may only rise with it, -1 = only fall, 0 = either
     * @param bool      $parted whether the rows of every leaf are wanted; if not, those of the last level stay with the node above
     */
    public function __construct(public int $leaves, public int $depth, public float $rows, public float $ridge, public array $rising, public bool $parted = true)
    {
    }
}
