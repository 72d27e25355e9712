<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Table\Kind;

/** What is known about a column once its last cell has passed. */
final readonly class EncodedColumn
{
    /**
     * @param list<string>             $levels  what the codes in its frames stand for
     * @param array<string, mixed>     $profile summary, bins and counts for the Register
     * @param list<array{int, string}> $misfits row (from 0) and text of cells that do not fit the kind; the first 10,000
     */
    public function __construct(public Kind $kind, public array $levels, public array $profile, public array $misfits, public int $misfitCount)
    {
    }
}
