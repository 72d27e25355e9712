<?php

declare(strict_types=1);

namespace App\Judgment;

use Dokimos\Core\Explain\TreeReading;

/** The tree of a trial, leaf by leaf. */
final readonly class TreeView
{
    /** @param float $cutoff verdicts ask whether a leaf is clear of it */
    public function __construct(public int $trialId, public int $trialNumber, public string $event, public ?string $target, public float $baseRate, public float $cutoff, public TreeReading $tree)
    {
    }
}
