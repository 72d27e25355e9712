<?php

declare(strict_types=1);

namespace App\Overview;

use App\Study\Role;
use Symfony\Component\Validator\Constraints as Assert;

/** Who gets which role; no role takes the access away. */
final readonly class MemberRequest
{
    public function __construct(
        #[Assert\NotBlank(message: 'Say who, by their sign-in name.')]
        public string $login = '',
        public ?Role $role = null,
    ) {
    }
}
