<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

use Dokimos\Core\Learn\Scale;

/** What a model of trees adds up, and what the sum means. */
final readonly class SumOfTrees
{
    /**
     * @param list<OpenTree> $trees their leaves as they are added
     * @param float          $start the sum before the first
     */
    public function __construct(public array $trees, public float $start, public Scale $scale)
    {
    }
}
