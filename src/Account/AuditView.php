<?php

declare(strict_types=1);

namespace App\Account;

/** What was done to the installation. */
final readonly class AuditView
{
    public function __construct(public string $who, public string $what, public string $address, public string $at)
    {
    }
}
