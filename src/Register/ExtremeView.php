<?php

declare(strict_types=1);

namespace App\Register;

/** A record at an end of a column; z is its robust distance from the median. */
final readonly class ExtremeView
{
    public function __construct(public int $number, public string $value, public ?float $z)
    {
    }
}
