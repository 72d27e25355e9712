<?php

declare(strict_types=1);

namespace App\Storage;

use Doctrine\DBAL\Connection;

/** One file: the store that starts with one command. Who writes holds the lock on all of it, so nobody chooses or counts beside them. */
final readonly class SqliteStore implements Store
{
    public function __construct(private Connection $connection)
    {
    }

    public function title(): string
    {
        return 'SQLite';
    }

    public function isShared(): bool
    {
        return false;
    }

    public function now(): float
    {
        return microtime(true);
    }

    public function choosing(): string
    {
        return '';
    }

    public function alone(string $what, int $of): void
    {
    }

    public function isSound(): bool
    {
        return 'ok' === $this->connection->fetchOne('PRAGMA quick_check(1)');
    }

    public function reclaim(): void
    {
        $this->connection->executeStatement('PRAGMA incremental_vacuum(2000)');
    }

    public function size(): int
    {
        $pages = $this->connection->fetchOne('PRAGMA page_count');
        $each = $this->connection->fetchOne('PRAGMA page_size');

        return is_numeric($pages) && is_numeric($each) ? (int) $pages * (int) $each : 0;
    }
}
