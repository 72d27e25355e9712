<?php

declare(strict_types=1);

namespace App\Combine;

use Symfony\Component\Validator\Constraints as Assert;

/** Asks for the combination of a table to be followed with another one's records. */
final readonly class FollowRequest
{
    public function __construct(
        public int $tableId = 0,
        #[Assert\Length(max: 120, maxMessage: 'A table name has at most 120 letters.')]
        public string $name = '',
        public bool $preview = false,
    ) {
    }
}
