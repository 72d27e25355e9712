<?php

declare(strict_types=1);

namespace App\Logbook;

/** A page of the logbook. */
final readonly class LogbookView
{
    /** @param list<LogEntryView> $entries newest first */
    public function __construct(public int $total, public array $entries)
    {
    }
}
