<?php

declare(strict_types=1);

namespace App\Source;

/** How many of a column's cells with a value could be read as each kind. */
final readonly class FitsView
{
    public function __construct(public int $cells, public int $number, public int $date, public int $yesNo)
    {
    }
}
