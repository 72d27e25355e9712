<?php

declare(strict_types=1);

namespace App\Score;

/** A column that the model asks for, and where it was found. */
final readonly class MatchLine
{
    /** @param list<string|null> $firstValues */
    public function __construct(public string $asked, public string $kind, public ?string $found, public ?string $foundKind, public string $how, public ?string $problem, public array $firstValues, public int $missing)
    {
    }
}
