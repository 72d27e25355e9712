<?php

declare(strict_types=1);

namespace Dokimos\Core;

/** A part of longer work: what it reports from 0 to 1 is reported as from one share to another. */
final readonly class Stretch implements Progress
{
    public function __construct(private Progress $whole, private float $from, private float $to)
    {
    }

    public function report(float $share, string $message = ''): void
    {
        $this->whole->report($this->from + $share * ($this->to - $this->from), $message);
    }
}
