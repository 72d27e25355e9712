<?php

declare(strict_types=1);

namespace App\Storage;

use Doctrine\DBAL\Connection;
use Symfony\Component\Process\Process;

/** The programs that come with a PostgreSQL server, told where this store is; the password is never on a command line. */
final class ServerTools
{
    private const SECONDS = 3600;

    /**
     * @param list<string> $command "--dbname=" alone is filled in
     *
     * @return string what it printed
     *
     * @throws \RuntimeException where it is not there, or fails
     */
    public static function run(Connection $connection, array $command): string
    {
        $p = $connection->getParams();
        $name = $p['dbname'] ?? '';
        $environment = array_filter([
            'PGHOST' => $p['host'] ?? '',
            'PGPORT' => (string) ($p['port'] ?? ''),
            'PGUSER' => $p['user'] ?? '',
            'PGPASSWORD' => $p['password'] ?? '',
            'PGDATABASE' => $name,
        ], static fn (string $v): bool => '' !== $v);
        $process = new Process(
            array_map(static fn (string $c): string => '--dbname=' === $c ? $c.$name : $c, $command),
            null,
            $environment,
            null,
            self::SECONDS,
        );
        $process->run();
        if (!$process->isSuccessful()) {
            throw new \RuntimeException(\sprintf(
                '%s did not succeed: %s',
                $command[0],
                127 === $process->getExitCode() ? 'it is not installed on this machine.' : trim(
                    mb_substr($process->getErrorOutput(), 0, 400),
                ),
            ));
        }

        return $process->getOutput();
    }
}
