<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** The best way to divide a node by one column. */
final readonly class Division
{
    /**
     * @param float      $gain        weight of the node times what impurity falls by; for the gain ratio, that ratio
     * @param int        $cut         rows with codes up to this go left; unused when levels are named
     * @param int        $next        the next code seen in the node
     * @param ?list<int> $left        codes of levels that go left; null for an order
     * @param bool       $missingLeft where rows without a value go
     * @param bool       $missingSeen whether a row without a value was among those that grew the tree
     * @param list<int>  $seen        codes of levels seen in the node
     */
    public function __construct(public int $feature, public float $gain, public int $cut, public int $next, public ?array $left, public bool $missingLeft, public array $seen = [], public bool $missingSeen = true)
    {
    }
}
