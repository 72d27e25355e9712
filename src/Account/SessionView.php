<?php

declare(strict_types=1);

namespace App\Account;

/** Who is signed in. */
final readonly class SessionView
{
    public function __construct(public int $id, public string $login, public string $name, public string $initials, public bool $owner)
    {
    }

    public static function of(User $user): self
    {
        return new self($user->id(), $user->login(), $user->name(), $user->initials(), $user->isOwner());
    }
}
