<?php

declare(strict_types=1);

namespace App\Storage;

use Doctrine\Bundle\DoctrineBundle\Attribute\AsMiddleware;
use Doctrine\DBAL\Driver;
use Doctrine\DBAL\Driver\Connection;
use Doctrine\DBAL\Driver\Middleware;
use Doctrine\DBAL\Driver\Middleware\AbstractDriverMiddleware;

/**
 * What answers pages keeps its connection to a server from one request to the next: beginning one costs the server a process of its own
 * each time. Whatever a request leaves open is rolled back at its end, and a connection that was cut is made anew. Commands and workers
 * live long enough by themselves, and may divide into processes, which must not share one.
 */
#[AsMiddleware(priority: 200)]
final class PostgresMiddleware implements Middleware
{
    public function wrap(Driver $driver): Driver
    {
        return new class($driver) extends AbstractDriverMiddleware {
            public function connect(array $params): Connection
            {
                return parent::connect('pdo_pgsql' === ($params['driver'] ?? '') && 'cli' !== \PHP_SAPI ? ['persistent' => true] + $params : $params);
            }
        };
    }
}
