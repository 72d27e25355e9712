<?php

declare(strict_types=1);

namespace App\Account;

use Symfony\Component\Security\Core\Authentication\Token\TokenInterface;
use Symfony\Component\Security\Core\Exception\CustomUserMessageAccountStatusException;
use Symfony\Component\Security\Core\User\UserCheckerInterface;
use Symfony\Component\Security\Core\User\UserInterface;

/** Keeps disabled accounts out. */
final class EnabledChecker implements UserCheckerInterface
{
    public function checkPreAuth(UserInterface $user): void
    {
    }

    /** Only who knows the password is told; to anybody else a disabled account looks like one that is none. */
    public function checkPostAuth(UserInterface $user, ?TokenInterface $token = null): void
    {
        if ($user instanceof User && $user->isDisabled()) {
            throw new CustomUserMessageAccountStatusException('This account is disabled. Ask the owner of this installation.');
        }
    }
}
