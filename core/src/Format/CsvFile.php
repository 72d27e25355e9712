<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Table\ColumnAssembler;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;

/** A delimited text file on disk. */
final readonly class CsvFile
{
    /** Bytes read at once: their cells are still in the processor's cache when they are looked at again. */
    private const BLOCK = 128 << 10;

    /** @throws UnreadableTable The file … cannot be read. Check the name and the permissions. */
    public function __construct(private string $path)
    {
        if (!is_file($path) || !is_readable($path)) {
            throw new UnreadableTable(\sprintf('The file %s cannot be read. Check the name and the permissions.', basename($path)));
        }
    }

    /**
     * @param int<1, max> $size bytes of a block; the last may be shorter
     *
     * @return \Generator<int, string> bytes as UTF-8, a block at a time
     *
     * @throws UnreadableTable the file … cannot be opened
     */
    public function blocks(int $size = self::BLOCK): \Generator
    {
        $handle = fopen($this->path, 'r');
        if (false === $handle) {
            throw new UnreadableTable(\sprintf('The file %s cannot be opened.', basename($this->path)));
        }
        try {
            while (!feof($handle)) {
                $block = fread($handle, $size);
                if (false !== $block && '' !== $block) {
                    yield $block;
                }
            }
        } finally {
            fclose($handle);
        }
    }

    public function dialect(): Dialect
    {
        return DialectSniffer::detect((string) file_get_contents($this->path, false, null, 0, DialectSniffer::SAMPLE));
    }

    /**
     * The whole file in memory.
     *
     * @param array<string, Kind> $kinds
     *
     * @return array{Table, ImportedTable}
     */
    public function read(array $kinds = [], ?Dialect $dialect = null): array
    {
        $frames = new MemoryFrames();
        $imported = (new TableImporter($dialect ?? $this->dialect(), $frames))->import(fn () => $this->blocks(), $kinds);

        return [$frames->table($imported), $imported];
    }

    /**
     * What the whole file holds, read once without keeping its cells: kinds, and how many rows.
     *
     * @param array<string, Kind> $kinds settled beforehand
     */
    public function look(Dialect $dialect, array $kinds = []): ImportedTable
    {
        return (new TableImporter($dialect, new NoFrames()))->import(fn () => $this->blocks(), $kinds);
    }

    /**
     * The file a few thousand rows at a time, so that a large one needs no more memory than a small one.
     *
     * @param array<string, Kind> $kinds of all columns
     *
     * @return \Generator<int, Table>
     */
    public function parts(Dialect $dialect, array $kinds): \Generator
    {
        $parser = new CellParser($dialect->decimal, $dialect->missing, $dialect->thousands, $dialect->dates);
        $reader = $dialect->reader($this->blocks(...));
        foreach ($reader->batches(FrameCodec::ROWS) as $batch) {
            $columns = [];
            foreach ($reader->names() as $j => $name) {
                $encoder = new ColumnEncoder($parser, $kinds[$name] ?? Kind::Text);
                $encoder->take($batch->columns[$j]);
                $bytes = $encoder->frame();
                $encoded = $encoder->finish();
                $columns[$name] = ColumnAssembler::assemble($encoded->kind, [[$bytes, $batch->rows]], $encoded->levels);
            }
            yield Table::of($columns, $batch->rows);
        }
    }
}
