<?php

declare(strict_types=1);

namespace App\Replay;

/** What became of a study's file. */
final readonly class ReplayView
{
    /** @param list<string> $says what differs, and what is not done again */
    public function __construct(public array $says)
    {
    }
}
