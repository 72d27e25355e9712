<?php

declare(strict_types=1);

namespace App\Account;

use Symfony\Component\Validator\Constraints as Assert;

/** A code from an app, or the password that ends the need for one. */
final readonly class CodeRequest
{
    public function __construct(
        #[Assert\Length(max: 40)]
        public string $code = '',
        #[\SensitiveParameter, Assert\Length(max: 1000)]
        public string $password = '',
    ) {
    }
}
