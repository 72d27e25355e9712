<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** When a node is not divided further. */
final readonly class Limits
{
    /**
     * @param int   $depth  divisions on the way to a leaf, at most
     * @param float $leaf   weight of rows in a leaf, at least
     * @param float $divide weight of rows to divide, at least
     * @param float $gain   what impurity has to fall by, at least
     */
    public function __construct(public int $depth = \PHP_INT_MAX, public float $leaf = 1.0, public float $divide = 2.0, public float $gain = 0.0)
    {
    }
}
