<?php

declare(strict_types=1);

namespace App\Reasons;

/** One column of a local explanation. */
final readonly class LocalTerm
{
    public function __construct(public string $column, public ?string $value, public float $contribution)
    {
    }
}
