<?php

declare(strict_types=1);

namespace App\Overview;

/** A member of a study. */
final readonly class MemberView
{
    public function __construct(public string $login, public string $name, public string $role)
    {
    }
}
