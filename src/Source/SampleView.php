<?php

declare(strict_types=1);

namespace App\Source;

/** The query that draws a sample. */
final readonly class SampleView
{
    public function __construct(public string $part)
    {
    }
}
