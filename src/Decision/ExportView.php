<?php

declare(strict_types=1);

namespace App\Decision;

/** What would be written to a database, or was. */
final readonly class ExportView
{
    /**
     * @param list<string>  $names
     * @param list<string>  $types
     * @param ?list<string> $there    columns of the table of that name that is there; null where there is none
     * @param ?int          $written  records; null before
     * @param ?int          $holds    records in the table after it
     * @param ?string       $checksum of what was read back
     */
    public function __construct(
        public string $where,
        public string $table,
        public array $names,
        public array $types,
        public int $records,
        public ?array $there,
        public ?int $written = null,
        public ?int $holds = null,
        public ?string $checksum = null,
    ) {
    }
}
