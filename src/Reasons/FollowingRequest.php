<?php

declare(strict_types=1);

namespace App\Reasons;

use Symfony\Component\Validator\Constraints as Assert;

/** A column that follows others by a formula, such as a total its parts. */
final readonly class FollowingRequest
{
    public function __construct(
        public string $column = '',
        #[Assert\NotBlank(message: 'Write the formula that the column follows.'), Assert\Length(max: 2000)]
        public string $formula = '',
    ) {
    }
}
