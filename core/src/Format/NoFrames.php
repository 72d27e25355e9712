<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** Keeps nothing: for looking at what an import would give. */
final class NoFrames implements FrameSink
{
    public function frame(int $column, int $frame, string $bytes, int $rows): void
    {
    }
}
