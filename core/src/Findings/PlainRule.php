<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Measure\Interval;

/** A group of records in plain words, found on one half of them and checked on the other. */
final readonly class PlainRule
{
    /**
     * @param list<array{column: string, is: string}> $conditions all of which hold
     * @param Interval                                $found      share of events where it was found; flattering, because it was looked for there
     * @param Interval                                $check      the same on the other half
     * @param float                                   $overall    share of events in the half that checks
     * @param bool                                    $held       the whole interval of the check lies on the same side of the overall share
     */
    public function __construct(public array $conditions, public int $foundRows, public Interval $found, public int $checkRows, public Interval $check, public float $overall, public bool $held)
    {
    }
}
