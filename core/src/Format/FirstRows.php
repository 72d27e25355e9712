<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use PhpOffice\PhpSpreadsheet\Reader\IReadFilter;

/** Reads the first rows of a sheet only: enough for a look. */
final readonly class FirstRows implements IReadFilter
{
    public function __construct(private int $most)
    {
    }

    public function readCell(string $columnAddress, int $row, string $worksheetName = ''): bool
    {
        return $row <= $this->most;
    }
}
