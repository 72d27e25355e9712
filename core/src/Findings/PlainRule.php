<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Measure\Interval;

/** A group of records in plain words, found on one half of them and checked on the other: with a mean outcome unlike the whole's. */
final readonly class PlainRule
{
    /**
     * @param list<array{column: string, is: string}> $conditions all of which hold
     * @param ?string                                 $of         the class it is about; null of an event or a number
     * @param Interval                                $found      share of events (or of the class, or mean of the number) where it was found; flattering, because it was looked for there
     * @param Interval                                $check      the same on the other half
     * @param float                                   $overall    the same of all in the half that checks
     * @param bool                                    $held       the whole interval of the check lies on the same side of the overall one
     */
    public function __construct(public array $conditions, public ?string $of, public int $foundRows, public Interval $found, public int $checkRows, public Interval $check, public float $overall, public bool $held)
    {
    }
}
