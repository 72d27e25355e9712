<?php

declare(strict_types=1);

namespace App\Source;

use App\Http\Problem;
use App\Storage\Store;
use Doctrine\DBAL\Connection;
use Doctrine\DBAL\ParameterType;

/** What was sent, in a store that several machines share: whoever goes on with an upload, or imports it, finds all of it. */
final readonly class UploadPieces
{
    public function __construct(private Connection $connection, private Store $store)
    {
    }

    public function keep(int $upload, int $offset, string $bytes): void
    {
        if ($this->store->isShared()) {
            $this->connection->executeStatement(
                'INSERT INTO upload_piece (upload_id, piece_offset, bytes) VALUES (?, ?, ?)'
                .' ON CONFLICT (upload_id, piece_offset) DO UPDATE SET bytes = excluded.bytes',
                [$upload, $offset, $bytes],
                [2 => ParameterType::LARGE_OBJECT],
            );
        }
    }

    /** Writes to a file of this machine what it lacks. */
    public function bring(int $upload, string $path): void
    {
        if (!$this->store->isShared()) {
            return;
        }
        $size = $this->connection->fetchOne('SELECT received FROM upload WHERE id = ?', [$upload]);
        clearstatcache(true, $path);
        if (!is_numeric($size) || (is_file($path) && (int) filesize($path) === (int) $size)) {
            return;
        }
        @mkdir(\dirname($path), 0770, true);
        $lock = fopen($path.'.bring', 'c');
        if (false === $lock || !flock($lock, \LOCK_EX)) {
            throw new Problem(507, 'The disk is full. Nothing was imported.');
        }
        try {
            $file = fopen($path, 'c') ?: throw new Problem(507, 'The disk is full. Nothing was imported.');
            foreach ($this->connection->fetchFirstColumn(
                'SELECT piece_offset FROM upload_piece WHERE upload_id = ? ORDER BY piece_offset',
                [$upload],
            ) as $offset) {
                $bytes = $this->connection->fetchOne(
                    'SELECT bytes FROM upload_piece WHERE upload_id = ? AND piece_offset = ?',
                    [$upload, $offset],
                );
                $bytes = \is_resource($bytes) ? (string) stream_get_contents($bytes) : (\is_string($bytes) ? $bytes : '');
                if (-1 === fseek($file, is_numeric($offset) ? (int) $offset : 0) || fwrite($file, $bytes) !== \strlen($bytes)) {
                    throw new Problem(507, 'The disk is full. Nothing was imported.');
                }
            }
            fclose($file);
        } finally {
            fclose($lock);
            @unlink($path.'.bring');
        }
    }
}
