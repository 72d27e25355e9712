<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** Where an import puts its frames. A column may be sent a second time, from frame 0; the later frames hold. */
interface FrameSink
{
    public function frame(int $column, int $frame, string $bytes, int $rows): void;
}
