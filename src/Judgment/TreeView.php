<?php

declare(strict_types=1);

namespace App\Judgment;

use Dokimos\Core\Explain\TreeReading;

/** The tree of a trial, leaf by leaf. */
final readonly class TreeView
{
    /**
     * @param ?string $event   where one is predicted
     * @param bool    $chances whether its numbers are chances that another model gives
     * @param ?float  $cutoff  verdicts on leaves of an event ask whether they are clear of it; others, of the average
     */
    public function __construct(
        public int $trialId,
        public int $trialNumber,
        public string $task,
        public ?string $event,
        public ?string $target,
        public ?float $cutoff,
        public TreeReading $tree,
        public bool $chances = false,
    ) {
    }
}
