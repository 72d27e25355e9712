<?php

declare(strict_types=1);

namespace App\Search;

use Symfony\Component\Validator\Constraints as Assert;

/** A learner with settings that are fixed or varied. */
final readonly class SpaceRequest
{
    /** @param array<string, mixed> $settings by name: a value that is fixed; {"list": […]}; or {"from", "to", "points", "by": "even" or "factors"} */
    public function __construct(
        #[Assert\NotBlank(message: 'Name the learner.')]
        public string $learner = '',
        public array $settings = [],
    ) {
    }
}
