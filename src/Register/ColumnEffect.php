<?php

declare(strict_types=1);

namespace App\Register;

/** What a change does to one column. */
final readonly class ColumnEffect
{
    /**
     * @param int          $misfits  cells that do not fit the kind and count as missing; their text is kept
     * @param list<string> $examples some of those cells
     * @param ?string      $refused  why the column stays as it is
     */
    public function __construct(
        public int $id,
        public string $name,
        public int $cells,
        public int $misfits,
        public array $examples,
        public ?string $refused,
    ) {
    }
}
