<?php

declare(strict_types=1);

namespace App\Account;

/** What the sign-in page should offer. */
final readonly class SetupView
{
    public function __construct(public bool $needsOwner, public bool $demo)
    {
    }
}
