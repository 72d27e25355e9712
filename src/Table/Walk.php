<?php

declare(strict_types=1);

namespace App\Table;

use App\Storage\CellStore;
use Dokimos\Core\Table\ColumnAssembler;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Table;

/**
 * A large table frame by frame, in order: the store finds a frame only behind those before it in its chunk, so what lies around the
 * one asked for is fetched with it, as compressed bytes.
 */
final class Walk
{
    /** Cells fetched at once: at most 16 MB of them, mostly two. */
    private const CELLS = 2_000_000;

    /** How many frames are fetched at once; a chunk holds a whole number of such groups. */
    private readonly int $together;
    /** First frame of the group that is held. */
    private int $held = -1;
    /** @var array<int, list<array{string, int}>> by position */
    private array $frames = [];

    /**
     * @param list<TableColumn>            $columns
     * @param ?\Closure(Table, int): Table $seen    what is seen of the cells read, from their first row on; null = all
     */
    public function __construct(
        private readonly CellStore $store,
        private readonly DataTable $table,
        private readonly array $columns,
        private readonly ?\Closure $seen = null,
    ) {
        $together = CellStore::FRAMES;
        while ($together > 1 && $together * FrameCodec::ROWS * \count($columns) > self::CELLS) {
            $together = intdiv($together, 2);
        }
        $this->together = $together;
    }

    public function at(int $frame): Table
    {
        $first = $frame - $frame % $this->together;
        if ($first !== $this->held) {
            $positions = array_map(static fn (TableColumn $c): int => $c->position(), $this->columns);
            $this->frames = $this->store->some($this->table->id(), $positions, $first, $this->together);
            $this->held = $first;
        }
        $out = [];
        foreach ($this->columns as $column) {
            $out[$column->name()] = ColumnAssembler::assemble(
                $column->kind(),
                [$this->frames[$column->position()][$frame - $first]],
                $column->storedLevels(),
            );
        }

        $cells = Table::of($out, min(FrameCodec::ROWS, $this->table->rows() - $frame * FrameCodec::ROWS));

        return null === $this->seen ? $cells : ($this->seen)($cells, $frame * FrameCodec::ROWS);
    }
}
