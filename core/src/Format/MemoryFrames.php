<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Table\ColumnAssembler;
use Dokimos\Core\Table\Table;

/** Keeps an import's frames in memory: for the command line and small tables. */
final class MemoryFrames implements FrameSink
{
    /** @var array<int, array<int, array{string, int}>> */
    private array $frames = [];

    public function frame(int $column, int $frame, string $bytes, int $rows): void
    {
        $this->frames[$column][$frame] = [$bytes, $rows];
    }

    public function table(ImportedTable $imported): Table
    {
        $columns = [];
        foreach ($imported->columns as $j => $encoded) {
            $columns[$imported->names[$j]] = ColumnAssembler::assemble($encoded->kind, $this->frames[$j] ?? [], $encoded->levels);
        }

        return Table::of($columns, $imported->rows);
    }
}
