<?php

declare(strict_types=1);

namespace App\Logbook;

/** An entry as read. */
final readonly class LogEntryView
{
    public function __construct(public int $id, public string $at, public string $who, public string $station, public string $sentence)
    {
    }

    public static function of(LogEntry $entry): self
    {
        return new self($entry->id(), $entry->at()->format(\DATE_ATOM), $entry->user()?->name() ?? 'Dokimos', $entry->station(), $entry->sentence());
    }
}
