<?php

declare(strict_types=1);

namespace App\Storage;

use Doctrine\Bundle\DoctrineBundle\Attribute\AsMiddleware;
use Doctrine\DBAL\Driver;
use Doctrine\DBAL\Driver\Connection;
use Doctrine\DBAL\Driver\Exception as DriverException;
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
    /** What the server's list of its sessions calls those of pages. */
    public const PAGES = 'dokimos-pages';

    public function wrap(Driver $driver): Driver
    {
        return new class($driver) extends AbstractDriverMiddleware {
            public function connect(array $params): Connection
            {
                if ('pdo_pgsql' !== ($params['driver'] ?? '') || 'cli' === \PHP_SAPI) {
                    return parent::connect(['persistent' => false] + $params);
                }
                $params = ['persistent' => true, 'application_name' => PostgresMiddleware::PAGES] + $params;
                try {
                    // It is told the characters of texts, and so is asked once whether it is still there.
                    return parent::connect(['charset' => 'utf8'] + $params);
                } catch (DriverException) {
                    // A server that ended it said so in a message that nobody had read: now it is known to be over, and made anew.
                    return parent::connect($params);
                }
            }
        };
    }
}
