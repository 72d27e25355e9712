<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** Chances given, in bins of the same width from 0 to 1. */
final readonly class HistogramView
{
    /**
     * @param list<int> $events
     * @param list<int> $others
     */
    public function __construct(public array $events, public array $others)
    {
    }
}
