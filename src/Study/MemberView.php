<?php

declare(strict_types=1);

namespace App\Study;

/** A member of a study. */
final readonly class MemberView
{
    public function __construct(public string $login, public string $name, public string $role)
    {
    }
}
