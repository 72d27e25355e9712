<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

/** A node under another, with the answer that leads to it. */
final readonly class TreeBranch
{
    /** @param ?float $share as of a leaf; null without a row */
    public function __construct(public int $node, public int $parent, public int $depth, public string $answer, public int $rows, public int $events, public ?float $share, public bool $leaf)
    {
    }
}
