<?php

declare(strict_types=1);

namespace App\Combine;

use Symfony\Component\Validator\Constraints as Assert;

/** Asks for a table made from others; with a preview only for what that would cost. */
final readonly class CombineRequest
{
    /** @param array<string, mixed> $combination look up: key, otherKey, columns; gather: key, figures; draw: records, seed */
    public function __construct(
        public int $tableId = 0,
        public ?int $otherId = null,
        public array $combination = [],
        #[Assert\Length(max: 120, maxMessage: 'A table name has at most 120 letters.')]
        public string $name = '',
        public bool $preview = false,
    ) {
    }
}
