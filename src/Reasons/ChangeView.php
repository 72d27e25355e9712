<?php

declare(strict_types=1);

namespace App\Reasons;

/** A cell that is changed. */
final readonly class ChangeView
{
    /** @param bool $follows whether it changed because it follows others by a formula */
    public function __construct(public string $column, public ?string $from, public string $to, public bool $follows = false)
    {
    }
}
