<?php

declare(strict_types=1);

namespace App\Service;

/** How the service is called from one language. */
final readonly class ExampleView
{
    public function __construct(
        public string $language,
        public string $code,
    ) {
    }
}
