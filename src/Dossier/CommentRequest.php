<?php

declare(strict_types=1);

namespace App\Dossier;

/** A comment to be kept, on a section or on words of it. */
final readonly class CommentRequest
{
    public function __construct(
        public string $section = '',
        public string $text = '',
        public bool $print = false,
        public string $quote = '',
    ) {
    }
}
