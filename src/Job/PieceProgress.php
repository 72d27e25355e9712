<?php

declare(strict_types=1);

namespace App\Job;

use Dokimos\Core\Progress;
use Dokimos\Core\Stopped;

/** Writes down where a piece stands, renews its lease, and stops it when its job is cancelled; at most three times a second. */
final class PieceProgress implements Progress
{
    private float $next = 0.0;

    public function __construct(private readonly PieceQueue $queue, private readonly int $piece)
    {
    }

    public function report(float $share, string $message = ''): void
    {
        $now = microtime(true);
        if ($now < $this->next) {
            return;
        }
        $this->next = $now + 0.3;
        if ($this->queue->isCancelled($this->piece)) {
            throw new Stopped('Cancelled.');
        }
        $this->queue->renew($this->piece, $share);
    }
}
