<?php

declare(strict_types=1);

namespace App\Tests\Api;

use Doctrine\DBAL\Driver;
use Doctrine\DBAL\Driver\Connection;
use Doctrine\DBAL\Driver\Middleware;
use Doctrine\DBAL\Driver\Middleware\AbstractConnectionMiddleware;
use Doctrine\DBAL\Driver\Middleware\AbstractDriverMiddleware;
use Doctrine\DBAL\Driver\Result;
use Doctrine\DBAL\Driver\Statement;

/** Counts the statements that reach the database, so that a list that asks once a line is found. */
final class CountedQueries implements Middleware
{
    public static int $count = 0;

    public function wrap(Driver $driver): Driver
    {
        return new class($driver) extends AbstractDriverMiddleware {
            public function connect(array $params): Connection
            {
                return new class(parent::connect($params)) extends AbstractConnectionMiddleware {
                    public function prepare(string $sql): Statement
                    {
                        ++CountedQueries::$count;

                        return parent::prepare($sql);
                    }

                    public function query(string $sql): Result
                    {
                        ++CountedQueries::$count;

                        return parent::query($sql);
                    }
                };
            }
        };
    }
}
