<?php

declare(strict_types=1);

namespace App\Combine;

/** How a table was made. */
final readonly class CombinationView
{
    public function __construct(public int $tableId, public int $sourceId, public string $sourceName, public ?int $otherId, public ?string $otherName, public string $sentence)
    {
    }
}
