<?php

declare(strict_types=1);

namespace App\Storage;

use Dokimos\Core\Format\FrameSink;

/** Gathers an import's frames into chunks and writes them in short transactions. */
final class ChunkSink implements FrameSink
{
    private const ENOUGH = 2 << 20;

    /** @var array<int, array<int, list<array{string, int}>>> frames not yet handed over, by column and chunk */
    private array $open = [];
    /** @var list<array{position: int, chunk: int, frames: list<array{string, int}>}> */
    private array $ready = [];
    private int $bytes = 0;

    /** @param bool $hold keep everything until flush(): a column that is read again is swapped in one go */
    public function __construct(private readonly CellStore $store, private readonly int $table, private readonly bool $hold = false)
    {
    }

    public function frame(int $column, int $frame, string $bytes, int $rows): void
    {
        $chunk = intdiv($frame, CellStore::FRAMES);
        if (0 === $frame) {
            // From the start again: what is still held of an earlier reading no longer counts.
            $this->open[$column] = [];
            $this->ready = array_values(array_filter($this->ready, static fn (array $c) => $c['position'] !== $column));
        }
        foreach (array_keys($this->open[$column] ?? []) as $before) {
            if ($before < $chunk) {
                $this->close($column, $before);
            }
        }
        $this->open[$column][$chunk][] = [$bytes, $rows];
        $this->bytes += \strlen($bytes);
        if ($this->bytes > self::ENOUGH && !$this->hold) {
            $this->writeReady();
        }
    }

    private function close(int $column, int $chunk): void
    {
        $this->ready[] = ['position' => $column, 'chunk' => $chunk, 'frames' => $this->open[$column][$chunk]];
        unset($this->open[$column][$chunk]);
    }

    private function writeReady(): void
    {
        if ([] !== $this->ready) {
            $this->store->write($this->table, $this->ready);
            $this->ready = [];
            $this->bytes = 0;
        }
    }

    public function flush(): void
    {
        foreach ($this->open as $column => $chunks) {
            foreach (array_keys($chunks) as $chunk) {
                $this->close($column, $chunk);
            }
        }
        $this->writeReady();
    }
}
