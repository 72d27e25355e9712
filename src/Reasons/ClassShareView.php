<?php

declare(strict_types=1);

namespace App\Reasons;

/** The chance of one class of several. */
final readonly class ClassShareView
{
    public function __construct(public string $name, public float $chance)
    {
    }
}
