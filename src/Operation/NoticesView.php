<?php

declare(strict_types=1);

namespace App\Operation;

/** What is amiss with the installation. */
final readonly class NoticesView
{
    /** @param list<string> $says */
    public function __construct(public array $says)
    {
    }
}
