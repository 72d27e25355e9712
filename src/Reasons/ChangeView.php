<?php

declare(strict_types=1);

namespace App\Reasons;

/** A cell that is changed. */
final readonly class ChangeView
{
    public function __construct(public string $column, public ?string $from, public string $to)
    {
    }
}
