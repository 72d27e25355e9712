<?php

declare(strict_types=1);

namespace App\Reasons;

/** Records of a list that mainly the same speaks for. */
final readonly class BecauseGroup
{
    public function __construct(public string $says, public int $records)
    {
    }
}
