<?php

declare(strict_types=1);

namespace App\Source;

/** A connection without its password. */
final readonly class ConnectionView
{
    public function __construct(public int $id, public string $host, public string $database, public string $login)
    {
    }

    public static function of(DatabaseConnection $connection): self
    {
        return new self($connection->id(), $connection->host(), $connection->database(), $connection->login());
    }
}
