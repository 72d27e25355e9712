<?php

declare(strict_types=1);

namespace App\Storage;

use Doctrine\Bundle\DoctrineBundle\Attribute\AsMiddleware;
use Doctrine\DBAL\Driver;
use Doctrine\DBAL\Driver\Connection;
use Doctrine\DBAL\Driver\Middleware;
use Doctrine\DBAL\Driver\Middleware\AbstractDriverMiddleware;

/** Prepares each SQLite connection; outside the test bundle's own middleware, so that tests run on the same settings. */
#[AsMiddleware(priority: 200)]
final class SqliteMiddleware implements Middleware
{
    public function wrap(Driver $driver): Driver
    {
        return new class($driver) extends AbstractDriverMiddleware {
            public function connect(array $params): Connection
            {
                $made = parent::connect($params);

                return 'sqlite3' === ($params['driver'] ?? '') ? new SqliteConnection($made) : $made;
            }
        };
    }
}
