<?php

declare(strict_types=1);

namespace App\Account;

/** An account as the owner of the installation sees it. */
final readonly class AccountView
{
    public function __construct(public int $id, public string $login, public string $name, public bool $owner, public bool $disabled)
    {
    }

    public static function of(User $user): self
    {
        return new self($user->id(), $user->login(), $user->name(), $user->isOwner(), $user->isDisabled());
    }
}
