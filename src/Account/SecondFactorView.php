<?php

declare(strict_types=1);

namespace App\Account;

/** What is shown while a second step is set up. */
final readonly class SecondFactorView
{
    /**
     * @param string       $secret to be typed into an app; empty once it is on
     * @param string       $link   the same as an app reads it
     * @param list<string> $codes  for the day when the telephone is lost; shown once
     */
    public function __construct(public string $secret, public string $link, public array $codes)
    {
    }
}
