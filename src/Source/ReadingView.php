<?php

declare(strict_types=1);

namespace App\Source;

use Dokimos\Core\Format\Dialect;

/** How a file would be read, shown before it is imported. */
final readonly class ReadingView
{
    /**
     * @param list<string>       $names
     * @param list<list<string>> $records   the first twenty
     * @param ?string            $container "workbook" or "database" when the file holds several tables
     * @param list<string>       $parts     their names
     * @param ?string            $part      the one that is read, or a SELECT
     * @param ?int               $held      how many records it holds, where that is known
     * @param ?int               $most      how many of them are taken at most
     * @param list<string>       $remarks   what does not fit the way it is read, and what another way would do
     */
    public function __construct(
        public int $id,
        public string $fileName,
        public int $size,
        public int $received,
        public Dialect $dialect,
        public array $names,
        public array $records,
        public int $aboutRecords,
        public ?string $container,
        public array $parts,
        public ?string $part,
        public ?int $held,
        public ?int $most,
        public array $remarks,
    ) {
    }
}
