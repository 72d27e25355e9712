<?php

declare(strict_types=1);

namespace Dokimos\Core\Search;

/** One setting to be weighed: of which space, on which preparation and choice of columns. */
final readonly class Candidate
{
    /** @param array<string, mixed> $settings */
    public function __construct(public int $space, public int $variant, public int $choice, public array $settings)
    {
    }
}
