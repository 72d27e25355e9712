<?php

declare(strict_types=1);

namespace App\Replay;

/** A study that was begun from a file. */
final readonly class ReplayBegunView
{
    public function __construct(public int $studyId)
    {
    }
}
