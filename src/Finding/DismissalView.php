<?php

declare(strict_types=1);

namespace App\Finding;

/** Who settled a finding, when and why. */
final readonly class DismissalView
{
    public function __construct(public string $reason, public string $who, public string $at)
    {
    }
}
