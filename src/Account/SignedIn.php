<?php

declare(strict_types=1);

namespace App\Account;

use App\Http\Problem;
use Symfony\Bundle\SecurityBundle\Security;

/** Who asks. */
final readonly class SignedIn
{
    public function __construct(private Security $security)
    {
    }

    public function user(): User
    {
        $user = $this->security->getUser();

        return $user instanceof User ? $user : throw new Problem(401, 'Sign in first.');
    }
}
