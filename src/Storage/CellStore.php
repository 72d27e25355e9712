<?php

declare(strict_types=1);

namespace App\Storage;

use Doctrine\DBAL\Connection;
use Doctrine\DBAL\ParameterType;
use Dokimos\Core\Table\FrameCodec;

/**
 * Where cells and sources lie: chunks of 65,536 rows of one column, each 16 separately compressed frames of 4,096 rows behind a list
 * of their lengths; sources as compressed blocks. The only place that knows these tables.
 */
final readonly class CellStore
{
    public const FRAMES = 16;

    public function __construct(private Connection $connection)
    {
    }

    /**
     * @param list<array{position: int, chunk: int, frames: list<array{string, int}>}> $chunks
     */
    public function write(int $table, array $chunks): void
    {
        $this->connection->transactional(function () use ($table, $chunks): void {
            foreach ($chunks as $chunk) {
                $bytes = implode('', array_column($chunk['frames'], 0));
                $lengths = array_map(static fn (array $f) => \strlen($f[0]), $chunk['frames']);
                $rows = array_column($chunk['frames'], 1);
                $this->connection->executeStatement(
                    'INSERT INTO column_chunk (table_id, position, chunk, row_counts, lengths, checksum, bytes) VALUES (?, ?, ?, ?, ?, ?, ?)'
                    .' ON CONFLICT (table_id, position, chunk) DO UPDATE SET row_counts = excluded.row_counts, lengths = excluded.lengths,'
                    .' checksum = excluded.checksum, bytes = excluded.bytes',
                    [$table, $chunk['position'], $chunk['chunk'], implode(',', $rows), implode(',', $lengths), hash('xxh3', $bytes), $bytes],
                    [6 => ParameterType::LARGE_OBJECT],
                );
            }
        });
    }

    /**
     * The frames of one column, in order.
     *
     * @return \Generator<int, array{string, int}>
     */
    public function frames(int $table, int $position): \Generator
    {
        foreach ($this->connection->fetchFirstColumn('SELECT chunk FROM column_chunk WHERE table_id = ? AND position = ? ORDER BY chunk', [$table, $position]) as $chunk) {
            $row = $this->connection->fetchAssociative('SELECT row_counts, lengths, checksum, bytes FROM column_chunk WHERE table_id = ? AND position = ? AND chunk = ?', [$table, $position, $chunk]);
            \assert(false !== $row);
            $bytes = self::bytes($row['bytes']);
            if (hash('xxh3', $bytes) !== $row['checksum']) {
                throw new \UnexpectedValueException(\sprintf('Chunk %s of column %d in table %d is damaged; restore the last backup.', self::text($chunk), $position, $table));
            }
            $at = 0;
            $counts = explode(',', self::text($row['row_counts']));
            foreach (explode(',', self::text($row['lengths'])) as $i => $length) {
                yield [substr($bytes, $at, (int) $length), (int) $counts[$i]];
                $at += (int) $length;
            }
        }
    }

    /**
     * One frame alone, without reading its chunk whole.
     *
     * @return array{string, int}
     */
    public function frame(int $table, int $position, int $frame): array
    {
        $chunk = intdiv($frame, self::FRAMES);
        $head = $this->connection->fetchAssociative('SELECT row_counts, lengths FROM column_chunk WHERE table_id = ? AND position = ? AND chunk = ?', [$table, $position, $chunk]);
        if (false === $head) {
            throw new \OutOfBoundsException('There is no such frame.');
        }
        $lengths = array_map(intval(...), explode(',', self::text($head['lengths'])));
        $inside = $frame % self::FRAMES;
        $bytes = $this->connection->fetchOne('SELECT substr(bytes, ?, ?) FROM column_chunk WHERE table_id = ? AND position = ? AND chunk = ?', [array_sum(\array_slice($lengths, 0, $inside)) + 1, $lengths[$inside], $table, $position, $chunk]);

        return [self::bytes($bytes), (int) explode(',', self::text($head['row_counts']))[$inside]];
    }

    public function writeSource(int $table, int $block, string $bytes): void
    {
        $this->connection->executeStatement('INSERT INTO source_block (table_id, block, bytes) VALUES (?, ?, ?)'
            .' ON CONFLICT (table_id, block) DO UPDATE SET bytes = excluded.bytes', [$table, $block, gzdeflate($bytes, 1)], [2 => ParameterType::LARGE_OBJECT]);
    }

    /** Another source takes the place of what was kept. */
    public function forgetSource(int $table): void
    {
        $this->connection->executeStatement('DELETE FROM source_block WHERE table_id = ?', [$table]);
    }

    /** @return \Generator<int, string> the source file's bytes */
    public function source(int $table): \Generator
    {
        for ($block = 0; false !== $bytes = $this->connection->fetchOne('SELECT bytes FROM source_block WHERE table_id = ? AND block = ?', [$table, $block]); ++$block) {
            yield (string) gzinflate(self::bytes($bytes));
        }
    }

    /**
     * The order of rows by one column, kept once computed; a part of it is read without the rest.
     *
     * @return ?list<int>
     */
    public function order(int $table, int $position, int $from = 0, int $count = 1 << 28): ?array
    {
        $bytes = $this->connection->fetchOne('SELECT substr(bytes, ?, ?) FROM sort_order WHERE table_id = ? AND position = ?', [4 * $from + 1, 4 * $count, $table, $position]);
        if (false === $bytes) {
            return null;
        }
        /** @var array<int, int> $order */
        $order = unpack('V*', self::bytes($bytes)) ?: [];

        return array_values($order);
    }

    /** @param list<int> $order */
    public function keepOrder(int $table, int $position, array $order): void
    {
        $this->connection->executeStatement('INSERT INTO sort_order (table_id, position, bytes) VALUES (?, ?, ?)'
            .' ON CONFLICT (table_id, position) DO UPDATE SET bytes = excluded.bytes', [$table, $position, pack('V*', ...$order)], [2 => ParameterType::LARGE_OBJECT]);
    }

    public function forgetOrder(int $table, int $position): void
    {
        $this->connection->executeStatement('DELETE FROM sort_order WHERE table_id = ? AND position = ?', [$table, $position]);
    }

    /** Removes what an import left that never became ready. */
    public function discard(int $table): void
    {
        foreach (['column_chunk', 'source_block', 'sort_order'] as $name) {
            $this->connection->executeStatement('DELETE FROM '.$name.' WHERE table_id = ?', [$table]);
        }
    }

    public static function frameOf(int $row): int
    {
        return intdiv($row, FrameCodec::ROWS);
    }

    private static function bytes(mixed $value): string
    {
        return \is_resource($value) ? (string) stream_get_contents($value) : self::text($value);
    }

    private static function text(mixed $value): string
    {
        return \is_scalar($value) ? (string) $value : '';
    }
}
