<?php

declare(strict_types=1);

namespace App\Operation;

use App\Http\FullDisk;
use App\Storage\ServerTools;
use App\Storage\Store;
use Doctrine\DBAL\Connection;

/**
 * Copies the whole installation to one file and back: a server by its own tools. Copying a live database file loses what still lies in its
 * write-ahead log
 * (measured), so SQLite writes the copy itself.
 */
final readonly class Backup
{
    public function __construct(private Connection $connection, private Store $store, private string $dataDirectory)
    {
    }

    /** What a backup's name ends in. */
    public function ending(): string
    {
        return $this->store->isShared() ? 'dump' : 'sqlite';
    }

    /** Writes FILE, FILE.sha256 and FILE.key. */
    public function write(string $file): string
    {
        if (file_exists($file)) {
            throw new \RuntimeException(\sprintf('%s exists already; nothing was written.', $file));
        }
        if (!is_dir(\dirname($file)) && !mkdir(\dirname($file), 0770, true)) {
            throw new \RuntimeException(\sprintf('The folder of %s cannot be made.', $file));
        }
        $partial = $file.'.partial';
        @unlink($partial);
        $readable = umask(0077);
        try {
            if ($this->store->isShared()) {
                ServerTools::run($this->connection, ['pg_dump', '--format=custom', '--no-owner', '--file='.$partial]);
            } else {
                $this->connection->executeStatement('VACUUM INTO '.$this->connection->quote($partial));
            }
            $this->check($partial);
            $sum = (string) hash_file('sha256', $partial);
            if (false === @file_put_contents($file.'.sha256', $sum.'  '.basename($file)."\n") || !@copy(
                $this->dataDirectory.'/app.secret',
                $file.'.key',
            )) {
                throw new \RuntimeException('The disk is full.');
            }
            chmod($file.'.key', 0600);
            rename($partial, $file);
        } catch (\Throwable $e) {
            array_map(static fn (string $end): bool => @unlink($file.$end), ['.partial', '.sha256', '.key']);
            throw FullDisk::isBehind($e) ? new \RuntimeException(
                \sprintf(
                    'There is no room for the backup beside %s: it needs as much as the database. Nothing was left behind.',
                    basename($file),
                ),
                0,
                $e,
            ) : $e;
        } finally {
            umask($readable);
        }

        return $sum;
    }

    /** Puts a backup in the place of the database. Nothing may be running. */
    public function restore(string $file): void
    {
        if (!is_file($file)) {
            throw new \RuntimeException(\sprintf('There is no file %s.', $file));
        }
        $sum = is_file($file.'.sha256') ? explode(' ', (string) file_get_contents($file.'.sha256'))[0] : null;
        if (null !== $sum && $sum !== hash_file('sha256', $file)) {
            throw new \RuntimeException('The backup does not match its checksum; nothing was changed.');
        }
        $this->check($file);
        if ([] !== WorkerPulse::here($this->dataDirectory)) {
            throw new \RuntimeException('Workers are running. Stop Dokimos first, then restore.');
        }
        if ($this->store->isShared()) {
            // In one transaction: where it cannot be restored whole, all stays as it was.
            ServerTools::run(
                $this->connection,
                ['pg_restore', '--clean', '--if-exists', '--no-owner', '--single-transaction', '--dbname=', $file],
            );
            $this->takeKey($file);

            return;
        }
        $this->connection->close();
        $target = $this->dataDirectory.'/dokimos.sqlite';
        if (!copy($file, $target.'.new')) {
            throw new \RuntimeException('The copy could not be written; nothing was changed.');
        }
        if (is_file($target)) {
            rename($target, $target.'.before-restore');
        }
        @unlink($target.'-wal');
        @unlink($target.'-shm');
        rename($target.'.new', $target);
        $this->takeKey($file);
    }

    private function takeKey(string $file): void
    {
        if (is_file($file.'.key')) {
            copy($file.'.key', $this->dataDirectory.'/app.secret');
            chmod($this->dataDirectory.'/app.secret', 0600);
        }
    }

    private function check(string $file): void
    {
        if ($this->store->isShared()) {
            ServerTools::run($this->connection, ['pg_restore', '--list', $file]);

            return;
        }
        $copy = new \SQLite3($file, \SQLITE3_OPEN_READONLY);
        $result = $copy->querySingle('PRAGMA integrity_check');
        $copy->close();
        if ('ok' !== $result) {
            throw new \RuntimeException(\sprintf('%s is not a sound database: %s', basename($file), \is_string($result) ? $result : ''));
        }
    }
}
