<?php

declare(strict_types=1);

namespace App\Account;

/** A new invitation; the path is shown this once. */
final readonly class InvitationView
{
    public function __construct(public string $path, public string $expiresAt)
    {
    }
}
