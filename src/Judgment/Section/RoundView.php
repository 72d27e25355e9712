<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** The error with so many trees, on rows that grew them and on rows that did not. */
final readonly class RoundView
{
    public function __construct(public int $trees, public ?float $training, public ?float $validation)
    {
    }
}
