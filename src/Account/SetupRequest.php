<?php

declare(strict_types=1);

namespace App\Account;

use Symfony\Component\Validator\Constraints as Assert;

/** The owner's account, made once with the code that the server printed. */
final readonly class SetupRequest
{
    public function __construct(
        public string $code = '',
        #[Assert\Regex('/^[a-z0-9._-]{2,60}$/', message: 'A sign-in name has 2 to 60 small letters, digits, points or dashes.')]
        public string $login = '',
        #[Assert\NotBlank(message: 'Give your name, as colleagues should read it.')]
        public string $name = '',
        public string $password = '',
    ) {
    }
}
