<?php

declare(strict_types=1);

namespace App\Storage;

use Doctrine\DBAL\Connection;

/** A PostgreSQL server: several web servers and worker machines on one store. */
final readonly class PostgresStore implements Store
{
    public function __construct(private Connection $connection)
    {
    }

    public function title(): string
    {
        return 'PostgreSQL';
    }

    public function isShared(): bool
    {
        return true;
    }

    public function now(): float
    {
        $now = $this->connection->fetchOne('SELECT extract(epoch FROM clock_timestamp())');

        return is_numeric($now) ? (float) $now : throw new \RuntimeException('The database tells no time.');
    }

    public function choosing(): string
    {
        return ' FOR UPDATE OF p SKIP LOCKED';
    }

    public function alone(string $what, int $of): void
    {
        $this->connection->executeStatement('SELECT pg_advisory_xact_lock(hashtext(?), ?)', [$what, $of]);
    }

    public function isSound(): bool
    {
        // Pages are checked by the server itself, where its data checksums are on; here every piece of cells is read once.
        return false !== $this->connection->fetchOne('SELECT COALESCE(SUM(length(bytes)), 0) FROM column_chunk');
    }

    public function reclaim(): void
    {
        // The server does it by itself.
    }

    public function size(): int
    {
        $size = $this->connection->fetchOne('SELECT pg_database_size(current_database())');

        return is_numeric($size) ? (int) $size : 0;
    }
}
