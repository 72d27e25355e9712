<?php

declare(strict_types=1);

namespace App\Storage;

use Doctrine\DBAL\Connection;
use Doctrine\DBAL\DriverManager;
use Doctrine\DBAL\Platforms\PostgreSQLPlatform;
use Doctrine\DBAL\Tools\DsnParser;

/** Which store an installation has: DATABASE_URL names a server, without it all of it is one file. */
final class Stores
{
    public const SCHEMES = ['postgresql' => 'pdo_pgsql', 'postgres' => 'pdo_pgsql', 'pgsql' => 'pdo_pgsql', 'sqlite' => 'sqlite3'];

    public static function of(Connection $connection): Store
    {
        return $connection->getDatabasePlatform() instanceof PostgreSQLPlatform
            ? new PostgresStore($connection)
            : new SqliteStore($connection);
    }

    /** A connection to another store than the installation's own: postgresql://… or the path of a SQLite file. */
    public static function open(string $url): Connection
    {
        return DriverManager::getConnection(
            str_contains($url, '://') ? (new DsnParser(self::SCHEMES))->parse($url) : ['driver' => 'sqlite3', 'path' => $url],
        );
    }

    /** What the installation's store is for a program that uses nothing but PDO. */
    public static function pdo(string $dataDirectory): \PDO
    {
        $url = $_SERVER['DATABASE_URL'] ?? '';
        $options = [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_TIMEOUT => 5];
        if (!\is_string($url) || '' === $url) {
            return new \PDO('sqlite:'.$dataDirectory.'/dokimos.sqlite', options: $options);
        }
        $p = (new DsnParser(self::SCHEMES))->parse($url);
        $dsn = implode(';', array_filter([
            isset($p['host']) ? 'host='.$p['host'] : '', isset($p['port']) ? 'port='.$p['port'] : '', isset($p['dbname']) ? 'dbname='.$p['dbname'] : '',
        ]));

        return new \PDO('pgsql:'.$dsn, $p['user'] ?? null, $p['password'] ?? null, [...$options, \PDO::ATTR_PERSISTENT => true]);
    }
}
