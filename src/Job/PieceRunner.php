<?php

declare(strict_types=1);

namespace App\Job;

use Dokimos\Core\Progress;

/** Does the work of one kind of job. Pieces may run twice: each writes its result under a key and skips what is there. */
interface PieceRunner
{
    public function kind(): string;

    /** @throws \Dokimos\Core\Stopped when cancelled */
    public function run(Job $job, Piece $piece, Progress $progress): void;

    /** The job failed or was cancelled: leave the subject in a state that says so. */
    public function abandon(Job $job, ?string $failure): void;
}
