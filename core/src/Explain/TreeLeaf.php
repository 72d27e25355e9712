<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

/** A leaf as a line of a ledger. */
final readonly class TreeLeaf
{
    /**
     * @param int     $node          its place among the nodes
     * @param string  $says          the path as a sentence
     * @param ?string $named         of several classes the one that it names
     * @param int     $events        rows of that class, or with the event
     * @param ?float  $share         of them, or the mean of a number, with a 95% interval; null without a row
     * @param ?float  $trainingShare the same of the rows that grew the tree
     * @param float   $answer        what the tree answers: a chance, or a number
     */
    public function __construct(public int $node, public int $number, public string $says, public ?string $named, public int $rows, public int $events, public ?float $share, public ?float $low, public ?float $high, public int $trainingRows, public ?float $trainingShare, public float $answer, public string $verdict)
    {
    }
}
