<?php

declare(strict_types=1);

namespace App\Table;

/** How an edition of a table differs from the one before. */
final readonly class EditionView
{
    /** @param list<DifferenceView> $differences */
    public function __construct(public int $beforeId, public int $beforeEdition, public string $beforeImportedAt, public int $rowsBefore, public int $rows, public array $differences)
    {
    }
}
