<?php

declare(strict_types=1);

namespace App\Storage;

use Doctrine\DBAL\ArrayParameterType;
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
    /** Rows of a chunk. */
    public const ROWS = self::FRAMES * FrameCodec::ROWS;
    /** Chunks of a column that are fetched at once: some megabytes. */
    private const FETCHED = 4;
    /** Columns of which a frame is fetched at once. */
    private const TOGETHER = 200;

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
     * The frames of one column, in order; some chunks are fetched at once, so that most tables take one statement a column.
     *
     * @return \Generator<int, array{string, int}>
     */
    public function frames(int $table, int $position): \Generator
    {
        for ($from = 0, $found = self::FETCHED; self::FETCHED === $found; $from += self::FETCHED) {
            $rows = $this->connection->fetchAllAssociative(
                'SELECT chunk, row_counts, lengths, checksum, bytes FROM column_chunk'
                .' WHERE table_id = ? AND position = ? AND chunk >= ? AND chunk < ? ORDER BY chunk',
                [$table, $position, $from, $from + self::FETCHED],
            );
            $found = \count($rows);
            foreach ($rows as $row) {
                foreach ($this->parts($table, $position, $row) as $frame) {
                    yield $frame;
                }
            }
        }
    }

    /**
     * The frames of several columns of a table of one chunk, by position.
     *
     * @param list<int> $positions
     *
     * @return array<int, list<array{string, int}>>
     */
    public function small(int $table, array $positions): array
    {
        $out = [];
        foreach ($this->connection->fetchAllAssociative(
            'SELECT position, chunk, row_counts, lengths, checksum, bytes FROM column_chunk WHERE table_id = ? AND position IN (?) AND chunk = 0 ORDER BY position',
            [$table, $positions],
            [1 => ArrayParameterType::INTEGER],
        ) as $row) {
            $position = (int) self::text($row['position']);
            $out[$position] = $this->parts($table, $position, $row);
        }

        return $out;
    }

    /**
     * @param array<string, mixed> $chunk
     *
     * @return list<array{string, int}>
     */
    private function parts(int $table, int $position, array $chunk): array
    {
        $bytes = self::bytes($chunk['bytes']);
        if (hash('xxh3', $bytes) !== $chunk['checksum']) {
            throw new \UnexpectedValueException(
                \sprintf('Chunk %s of column %d in table %d is damaged; restore the last backup.', self::text($chunk['chunk']), $position, $table),
            );
        }

        return self::cut($bytes, explode(',', self::text($chunk['lengths'])), explode(',', self::text($chunk['row_counts'])));
    }

    /**
     * Frames of several columns that lie one after the other in one chunk, without reading more of it.
     *
     * @param list<int> $positions
     *
     * @return array<int, list<array{string, int}>> by position
     */
    public function some(int $table, array $positions, int $frame, int $frames = 1): array
    {
        $chunk = intdiv($frame, self::FRAMES);
        $inside = $frame % self::FRAMES;
        $out = [];
        foreach (array_chunk($positions, self::TOGETHER) as $some) {
            $at = $length = '';
            $heads = [];
            foreach ($this->connection->fetchAllAssociative(
                'SELECT position, row_counts, lengths FROM column_chunk WHERE table_id = ? AND position IN (?) AND chunk = ?',
                [$table, $some, $chunk],
                [1 => ArrayParameterType::INTEGER],
            ) as $head) {
                $position = (int) self::text($head['position']);
                $lengths = array_map(intval(...), explode(',', self::text($head['lengths'])));
                $wanted = \array_slice($lengths, $inside, $frames);
                $at .= \sprintf(' WHEN %d THEN %d', $position, array_sum(\array_slice($lengths, 0, $inside)) + 1);
                $length .= \sprintf(' WHEN %d THEN %d', $position, array_sum($wanted));
                $heads[$position] = [$wanted, \array_slice(explode(',', self::text($head['row_counts'])), $inside, $frames)];
            }
            if (\count($heads) < \count($some)) {
                throw new \OutOfBoundsException('There is no such frame.');
            }
            foreach ($this->connection->fetchAllAssociative(
                "SELECT position, substr(bytes, CASE position$at END, CASE position$length END) AS bytes FROM column_chunk"
                .' WHERE table_id = ? AND position IN (?) AND chunk = ? ORDER BY position',
                [$table, $some, $chunk],
                [1 => ArrayParameterType::INTEGER],
            ) as $row) {
                $position = (int) self::text($row['position']);
                $out[$position] = self::cut(self::bytes($row['bytes']), ...$heads[$position]);
            }
        }

        return $out;
    }

    /**
     * @param array<int|string> $lengths
     * @param array<int|string> $rows
     *
     * @return list<array{string, int}>
     */
    private static function cut(string $bytes, array $lengths, array $rows): array
    {
        $at = 0;
        $out = [];
        foreach ($lengths as $i => $length) {
            $out[] = [substr($bytes, $at, (int) $length), (int) $rows[$i]];
            $at += (int) $length;
        }

        return $out;
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
