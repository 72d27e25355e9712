<?php

declare(strict_types=1);

namespace App\Trial;

/** A column that a preparation offers to a trial. */
final readonly class OfferedView
{
    /** @param ?string $made the raw columns that it is made of, when a step made it */
    public function __construct(public string $name, public string $kind, public ?string $made)
    {
    }
}
