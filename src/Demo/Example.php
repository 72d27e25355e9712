<?php

declare(strict_types=1);

namespace App\Demo;

/** Something on the shelf of examples. */
final readonly class Example
{
    public function __construct(public string $name, public string $fileName, public string $says)
    {
    }
}
