<?php

declare(strict_types=1);

namespace App\Table;

/** What differs in one column. */
final readonly class DifferenceView
{
    public function __construct(public string $column, public string $says)
    {
    }
}
