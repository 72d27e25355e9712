<?php

declare(strict_types=1);

namespace App\Source;

/** What is taken of a source that holds several tables. */
final readonly class Portion
{
    /** Records taken at most when nothing is said. */
    public const MOST = 5_000_000;

    /** @param ?string $part a sheet, a table or a SELECT; the first when null */
    public function __construct(public ?string $part = null, public int $most = self::MOST)
    {
    }

    public function key(): string
    {
        return hash('xxh128', $this->part."\0".$this->most);
    }
}
