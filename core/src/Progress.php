<?php

declare(strict_types=1);

namespace Dokimos\Core;

/** How long work reports where it stands and learns that it should stop. */
interface Progress
{
    /**
     * @param float $share 0 to 1
     *
     * @throws Stopped when the work should end
     */
    public function report(float $share, string $message = ''): void;
}
