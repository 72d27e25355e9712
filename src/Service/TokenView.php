<?php

declare(strict_types=1);

namespace App\Service;

/** A caller, without what it shows. */
final readonly class TokenView
{
    public function __construct(
        public int $id,
        public string $caller,
        public string $tail,
        public ?string $expires,
        public int $perMinute,
        public int $perDay,
        public bool $reasons,
        public int $calls,
        public int $mostADay,
        public ?string $lastAt,
        public bool $revoked,
    ) {
    }
}
