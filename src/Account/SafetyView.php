<?php

declare(strict_types=1);

namespace App\Account;

/** How an account is kept safe. */
final readonly class SafetyView
{
    /**
     * @param int                $codesLeft for the day when the telephone is lost
     * @param list<SignedInView> $places    where it is signed in, the latest first
     */
    public function __construct(public bool $secondFactor, public int $codesLeft, public array $places)
    {
    }
}
