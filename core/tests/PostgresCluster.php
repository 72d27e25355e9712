<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests;

/** A database server of the tests' own: made in a folder, reached on a free port, gone when the tests end. */
final class PostgresCluster
{
    public const READER = 'reader';
    /** Owns the database "lists". */
    public const WRITER = 'writer';
    /** What a connection string would stumble over. */
    public const PASSWORD = "it's a \\ secret";

    private static ?int $port = null;
    private static ?\Closure $serve = null;
    private static ?\Closure $stop = null;
    private static ?\Closure $ask = null;

    /** The port it listens at; the role READER may read the database "company". */
    public static function port(): int
    {
        return self::$port ??= self::start();
    }

    /** An empty database as a URL: the whole installation is kept in it. */
    public static function store(): string
    {
        return \sprintf('postgresql://%s:%s@127.0.0.1:%d/store?serverVersion=15', self::WRITER, rawurlencode(self::PASSWORD), self::port());
    }

    /** Another database for an installation, empty or as one that nobody is connected to; as a URL. */
    public static function database(string $name, ?string $like = null): string
    {
        $port = self::port();
        (self::$ask ?? throw new \LogicException('It has not begun.'))(
            'postgres',
            \sprintf('CREATE DATABASE "%s" OWNER %s%s', $name, self::WRITER, null === $like ? '' : " TEMPLATE \"$like\""),
        );

        return \sprintf('postgresql://%s:%s@127.0.0.1:%d/%s?serverVersion=15', self::WRITER, rawurlencode(self::PASSWORD), $port, $name);
    }

    /** The server goes down as when it is killed, and comes back after so many seconds. */
    public static function crash(float $seconds): void
    {
        self::port();
        (self::$stop ?? throw new \LogicException('It has not begun.'))();
        usleep((int) (1e6 * $seconds));
        (self::$serve ?? throw new \LogicException('It has not begun.'))();
    }

    private static function start(): int
    {
        $folder = sys_get_temp_dir().'/cluster-'.bin2hex(random_bytes(4));
        mkdir($folder);
        $socket = stream_socket_server('tcp://127.0.0.1:0');
        \assert(false !== $socket);
        $port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
        // The server refuses to run as root; Debian's package brings a user for it.
        $as = 0 === posix_geteuid() ? ['runuser', '-u', 'postgres', '--'] : [];
        if ([] !== $as) {
            chown($folder, 'postgres');
        }
        $programs = (glob('/usr/lib/postgresql/*/bin') ?: [])[0] ?? throw new \RuntimeException('The package postgresql is missing.');
        register_shutdown_function(static function () use ($as, $programs, $folder): void {
            exec(self::line([...$as, $programs.'/pg_ctl', 'stop', '-D', $folder.'/data', '-m', 'immediate']));
            exec(self::line(['rm', '-rf', $folder]));
        });
        self::run([
            ...$as,
            $programs.'/initdb',
            '-D',
            $folder.'/data',
            '-U',
            'owner',
            '--auth-local=trust',
            '--auth-host=scram-sha-256',
            '--no-sync',
            '-E',
            'UTF8',
            '--locale=C',
        ]);
        self::$serve = static function () use ($as, $programs, $folder, $port): void {
            self::run([
                ...$as,
                $programs.'/pg_ctl',
                'start',
                '-w',
                '-D',
                $folder.'/data',
                '-l',
                $folder.'/log',
                '-o',
                \sprintf('-c listen_addresses=127.0.0.1 -c port=%d -c unix_socket_directories=%s -c fsync=off', $port, $folder),
            ]);
        };
        self::$stop = static fn () => self::run([...$as, $programs.'/pg_ctl', 'stop', '-D', $folder.'/data', '-m', 'immediate']);
        (self::$serve)();
        $ask = static fn (string $database, string $statement) => self::run([
            ...$as, $programs.'/psql', '-q', '-v', 'ON_ERROR_STOP=1', '-h', $folder, '-p', (string) $port, '-U', 'owner', '-d', $database,
            '-c', $statement,
        ]);
        self::$ask = $ask;
        $role = \sprintf("CREATE ROLE %s LOGIN PASSWORD '%s'", self::READER, str_replace("'", "''", self::PASSWORD));
        foreach ([
            'postgres' => [
                $role,
                str_replace(self::READER, self::WRITER, $role),
                'CREATE DATABASE company',
                'CREATE DATABASE lists OWNER '.self::WRITER,
                'CREATE DATABASE store OWNER '.self::WRITER,
                'CREATE DATABASE empty OWNER '.self::WRITER,
            ],
            'company' => explode(";\n", rtrim((string) file_get_contents(__DIR__.'/Format/company.sql'), ";\n")),
        ] as $database => $statements) {
            foreach ($statements as $statement) {
                $ask($database, $statement);
            }
        }

        return $port;
    }

    /** @param list<string> $command */
    private static function line(array $command): string
    {
        return implode(' ', array_map(escapeshellarg(...), $command)).' 2>&1';
    }

    /** @param list<string> $command */
    private static function run(array $command): void
    {
        // Not exec(): the server that stays behind keeps a pipe open, and exec would wait for it.
        $log = (string) tempnam(sys_get_temp_dir(), 'cluster');
        system('cd / && '.implode(' ', array_map(escapeshellarg(...), $command)).' >'.escapeshellarg($log).' 2>&1 </dev/null', $code);
        $said = (string) file_get_contents($log);
        unlink($log);
        if (0 !== $code) {
            throw new \RuntimeException($said);
        }
    }
}
