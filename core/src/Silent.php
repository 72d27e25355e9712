<?php

declare(strict_types=1);

namespace Dokimos\Core;

/** Nobody listens and nobody stops the work. */
final class Silent implements Progress
{
    public function report(float $share, string $message = ''): void
    {
    }
}
