<?php

declare(strict_types=1);

namespace App\Decision;

/** A decision by name. */
final readonly class DecisionLine
{
    public function __construct(public int $id, public string $name, public string $createdAt)
    {
    }
}
