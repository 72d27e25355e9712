<?php

declare(strict_types=1);

namespace App\Reasons;

/** A record with other cells. */
final readonly class ImagineRequest
{
    /** @param array<string, string|null> $changes new cells by column, as text; null = missing */
    public function __construct(public array $changes = [])
    {
    }
}
