<?php

declare(strict_types=1);

namespace App\Decision;

use Symfony\Component\Validator\Constraints as Assert;

/** A decision with its name and terms; without terms it begins with assumed ones. */
final readonly class DecisionRequest
{
    public function __construct(
        #[Assert\Length(max: 120, maxMessage: 'A name has 120 characters at most.')]
        public string $name = '',
        #[Assert\Valid]
        public ?DecisionTerms $terms = null,
    ) {
    }
}
