<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** Nodes of a tree in pre-order, one entry of each list per node. */
final class Grown
{
    /** @var array<int, ?Division> null for leaves */
    public array $divisions = [];
    /** @var array<int, int> */
    public array $left = [];
    /** @var array<int, int> */
    public array $right = [];
    /** @var list<list<float>> weight of each class; for a number: weight, sum, sum of squares */
    public array $counts = [];
    /** @var list<int> */
    public array $depth = [];

    /** @param list<float> $counts */
    public function add(array $counts, int $depth): int
    {
        $this->divisions[] = null;
        $this->left[] = $this->right[] = -1;
        $this->counts[] = $counts;
        $this->depth[] = $depth;

        return \count($this->left) - 1;
    }
}
