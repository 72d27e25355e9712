<?php

declare(strict_types=1);

namespace App\Table;

use App\Storage\CellStore;
use App\Storage\ChunkSink;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Format\EncodedColumn;
use Dokimos\Core\Format\TableImporter;
use Dokimos\Core\Progress;
use Dokimos\Core\Table\Kind;

/** Fills a table with records made here: they are kept as text, like any source, and read with the kinds they have. */
final readonly class WrittenTable
{
    private const BLOCK = 1 << 20;

    public function __construct(private CellStore $store)
    {
    }

    /**
     * @param iterable<list<?string>>                    $lines  the names first, then a record each
     * @param array<string, Kind>                        $kinds  by name
     * @param \Closure(int, string, EncodedColumn): void $column told of each column once it is read
     */
    public function fill(DataTable $table, iterable $lines, array $kinds, \Closure $column, Progress $progress): void
    {
        $progress->report(0.05, 'put away');
        $hash = $this->putAway($table, $lines);
        $progress->report(0.5, 'read');
        $sink = new ChunkSink($this->store, $table->id());
        $imported = (new TableImporter($table->dialect(), $sink))->import(fn () => $this->store->source($table->id()), $kinds);
        $sink->flush();
        foreach ($imported->columns as $position => $encoded) {
            $column($position, $imported->names[$position], $encoded);
        }
        $table->describe($imported->rows, $hash, $imported->repairs);
    }

    /**
     * @param iterable<list<?string>> $lines
     *
     * @return string the hash of what was put away
     */
    private function putAway(DataTable $table, iterable $lines): string
    {
        $hash = hash_init('xxh128');
        $block = '';
        $n = 0;
        $put = function (string $bytes) use ($table, $hash, &$n): void {
            hash_update($hash, $bytes);
            $this->store->writeSource($table->id(), $n++, $bytes);
        };
        foreach ($lines as $cells) {
            $block .= CsvWriter::line($cells, false);
            if (\strlen($block) > self::BLOCK) {
                $put($block);
                $block = '';
            }
        }
        $put($block);

        return hash_final($hash);
    }
}
