<?php

declare(strict_types=1);

namespace App\Reasons;

use Symfony\Component\Validator\Constraints as Assert;

/** A wish for many records of a list at once. */
final readonly class GroupRequest
{
    /**
     * @param ?float       $low   the chance, or the number, at least
     * @param ?float       $high  at most
     * @param list<string> $fixed columns that stay as they are
     */
    public function __construct(
        public ?float $low = null,
        public ?float $high = null,
        #[Assert\All([new Assert\Type('string', message: 'Columns are named by text.')])]
        public array $fixed = [],
    ) {
    }
}
