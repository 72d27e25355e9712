<?php

declare(strict_types=1);

namespace App\Approval;

use Symfony\Component\Validator\Constraints as Assert;

/** Takes an approval back. */
final readonly class WithdrawRequest
{
    public function __construct(
        #[Assert\NotBlank(normalizer: 'trim', message: 'Say why it is withdrawn.'), Assert\Length(max: 1000)]
        public string $why = '',
    ) {
    }
}
