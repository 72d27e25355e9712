<?php

declare(strict_types=1);

namespace App\Service;

/** What one version answers. */
final readonly class TriedView
{
    /** @param array<array-key, mixed> $answer as a caller gets it */
    public function __construct(
        public int $version,
        public array $answer,
        public float $milliseconds,
    ) {
    }
}
