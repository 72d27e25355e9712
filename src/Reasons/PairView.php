<?php

declare(strict_types=1);

namespace App\Reasons;

/** Two columns, and what they do together beyond each alone. */
final readonly class PairView
{
    /**
     * @param float $h      share of the joint effect's size that neither shows alone (Friedman and Popescu), 0 to 1
     * @param float $beyond size of what is beyond: points of chance, or the unit of the number
     */
    public function __construct(public string $one, public string $other, public float $h, public float $beyond)
    {
    }
}
