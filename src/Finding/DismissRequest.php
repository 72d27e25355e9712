<?php

declare(strict_types=1);

namespace App\Finding;

use Symfony\Component\Validator\Constraints as Assert;

/** Settles a finding, or takes that back when there is no reason. */
final readonly class DismissRequest
{
    public function __construct(
        #[Assert\NotBlank(message: 'Say which finding.')]
        public string $key = '',
        #[Assert\Length(max: 300, maxMessage: 'A reason has at most 300 letters.')]
        public ?string $reason = null,
    ) {
    }
}
