<?php

declare(strict_types=1);

namespace App\Tests;

use App\Operation\Compiled;
use App\Storage\Stores;
use Doctrine\DBAL\Connection;
use Dokimos\Core\Tests\PostgresCluster;
use Symfony\Component\Process\Process;

/** An installation with a small demo in it, made once and made anew when the code changes. */
final class Fixture
{
    private const ROWS = 1500;
    /** On a server: what the installation with the demo is copied from. */
    private const FILLED = 'filled';
    private static bool $begun = false;
    /** @var array<string, string> on a server: the URL of the database of each folder */
    private static array $databases = [];

    public static function ensure(): void
    {
        $root = \dirname(__DIR__);
        $data = $_SERVER['DOKIMOS_DATA'];
        \assert(\is_string($data));
        $files = array_merge(
            glob($root.'/src/*.php') ?: [],
            glob($root.'/src/*/*.php') ?: [],
            glob($root.'/src/*/*/*.php') ?: [],
            glob($root.'/core/src/*/*.php') ?: [],
            glob($root.'/core/src/*/*/*.php') ?: [],
            glob($root.'/migrations/*.php') ?: [],
            glob($root.'/config/*.yaml') ?: [],
            glob($root.'/config/packages/*.yaml') ?: [],
        );
        $stamp = hash('xxh128', implode('', array_map(static fn (string $f) => (string) hash_file('xxh3', $f), $files)));
        // A server begins empty each time.
        $server = '' !== ($_SERVER['DATABASE_URL'] ?? '');
        if (self::$begun && $server) {
            return;
        }
        if (!$server && @file_get_contents($data.'/stamp') === $stamp) {
            // What an earlier run computed belongs to rows that were rolled back.
            self::$begun || self::run(['rm', '-rf', $data.'/cache']);
            self::$begun = true;

            return;
        }
        self::$begun = true;
        // Beside this one another installation may be at work on the same code.
        self::run(['rm', '-rf', $data, ...($server ? [] : [$root.'/var/cache/test'])]);
        mkdir($data, 0775, true);
        self::console(['dokimos:migrate']);
        self::console(['dokimos:demo:load', '--rows='.self::ROWS]);
        if ($server) {
            PostgresCluster::database(self::FILLED, 'store');
        }
        file_put_contents($data.'/stamp', $stamp);
    }

    /** An installation of its own with the demo in it, in a folder that is not there yet. */
    public static function copy(string $data): void
    {
        self::ensure();
        self::run(['cp', '-a', $_SERVER['DOKIMOS_DATA'], $data]);
        self::run(['rm', '-rf', $data.'/workers']);
        if (self::isServer()) {
            self::$databases[$data] = PostgresCluster::database('copy_'.bin2hex(random_bytes(6)), self::FILLED);
        }
    }

    public static function isServer(): bool
    {
        return '' !== ($_SERVER['DATABASE_URL'] ?? '');
    }

    /** @return array<string, string|false> what a program needs to work on the installation in a folder; a new one is empty */
    public static function at(string $data): array
    {
        $env = ['DOKIMOS_DATA' => $data, 'APP_SECRET' => false];
        if (self::isServer()) {
            self::$databases[$data] ??= $data === $_SERVER['DOKIMOS_DATA']
                ? (string) $_SERVER['DATABASE_URL']
                : PostgresCluster::database('new_'.bin2hex(random_bytes(6)));
            $env['DATABASE_URL'] = self::$databases[$data];
        }

        return $env;
    }

    /** What the installation in a folder is kept in, for looking at it and for changes that no command makes. */
    public static function sql(string $data): Connection
    {
        $connection = Stores::open((string) (self::at($data)['DATABASE_URL'] ?? $data.'/dokimos.sqlite'));
        if (!self::isServer()) {
            $connection->executeStatement('PRAGMA busy_timeout = 10000');
        }

        return $connection;
    }

    /** @param list<string> $arguments */
    public static function console(array $arguments, ?string $input = null, ?string $data = null): Process
    {
        return self::run([\PHP_BINARY, ...Compiled::options(), 'bin/console', ...$arguments], $input, $data);
    }

    /** @param list<string> $command */
    public static function run(array $command, ?string $input = null, ?string $data = null, bool $must = true): Process
    {
        $process = new Process(
            $command,
            \dirname(__DIR__),
            ['APP_ENV' => 'test'] + self::at($data ?? $_SERVER['DOKIMOS_DATA']),
            $input,
            900,
        );
        $process->run();
        if ($must && !$process->isSuccessful()) {
            throw new \RuntimeException($process->getOutput().$process->getErrorOutput());
        }

        return $process;
    }
}
