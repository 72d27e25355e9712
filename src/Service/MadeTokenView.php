<?php

declare(strict_types=1);

namespace App\Service;

/** A token, shown once. */
final readonly class MadeTokenView
{
    public function __construct(
        public TokenView $token,
        public string $shown,
    ) {
    }
}
