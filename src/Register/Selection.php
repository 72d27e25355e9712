<?php

declare(strict_types=1);

namespace App\Register;

/** Records found, in the wanted order. */
final readonly class Selection
{
    /**
     * @param string    $rows    uint32 little-endian, rows from 0
     * @param list<int> $without how many would be found without each condition
     * @param int       $sealed  records that were not asked, since the question was about what is hidden in them
     */
    public function __construct(
        private string $rows,
        public int $count,
        public array $without,
        public int $sealed,
        public ?ShareView $share,
    ) {
    }

    /** @return list<int> */
    public function page(int $offset, int $limit): array
    {
        /** @var array<int, int> $rows */
        $rows = unpack('V*', substr($this->rows, 4 * $offset, 4 * $limit)) ?: [];

        return array_values($rows);
    }
}
