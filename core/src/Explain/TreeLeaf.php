<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

/** A leaf as a line of a ledger. */
final readonly class TreeLeaf
{
    /**
     * @param int    $node          its place among the nodes
     * @param string $says          the path as a sentence
     * @param ?float $share         of the event, with a 95% interval; null without a row
     * @param float  $trainingShare of the rows that grew the tree
     * @param float  $chance        what the tree answers
     */
    public function __construct(public int $node, public int $number, public string $says, public int $rows, public int $events, public ?float $share, public ?float $low, public ?float $high, public int $trainingRows, public float $trainingShare, public float $chance, public string $verdict)
    {
    }
}
