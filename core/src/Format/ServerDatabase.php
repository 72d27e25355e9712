<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/**
 * A PostgreSQL database. Everything happens in one read-only transaction with a time limit, and a statement is sent by the
 * protocol that takes one statement only, as the query of a cursor: so it can neither change data nor leave the transaction.
 */
final class ServerDatabase extends Container
{
    private const SECONDS = 20;
    private const CONNECTING_SECONDS = 5;
    private const FETCHED_TOGETHER = 2000;

    /** @var ?array<string, string> quoted names by the name shown */
    private ?array $tables = null;

    /** @param string $ssl a mode of libpq: disable, prefer, require, verify-ca, verify-full */
    public function __construct(
        private readonly string $host,
        private readonly int $port,
        private readonly string $database,
        private readonly string $user,
        #[\SensitiveParameter]
        private readonly string $password,
        private readonly string $ssl = 'prefer',
        private readonly int $seconds = self::SECONDS,
    ) {
    }

    public function what(): string
    {
        return 'database';
    }

    /** @throws UnreadableTable The database … holds no table that … may read. Nothing was imported. */
    public function parts(): array
    {
        $names = array_map(strval(...), array_keys($this->tables()));

        return [] === $names ? throw new UnreadableTable(\sprintf('The database %s holds no table that %s may read. Nothing was imported.', $this->database, $this->user)) : $names;
    }

    /**
     * Whether it is of use at all: a place for lists holds no table as long as none was written.
     *
     * @throws UnreadableTable as parts()
     */
    public function reach(): void
    {
        try {
            $this->parts();
        } catch (UnreadableTable $e) {
            $may = iterator_to_array($this->records(
                "SELECT 1 FROM pg_catalog.pg_namespace
                 WHERE nspname NOT LIKE 'pg\\_%' AND pg_catalog.has_schema_privilege(oid, 'CREATE')",
                1,
            ));
            if (\count($may) < 2) {
                throw $e;
            }
        }
    }

    public function about(string $part): ?int
    {
        $quoted = $this->tables()[$part] ?? null;
        try {
            foreach (null === $quoted ? [] : $this->records('SELECT count(*) FROM '.$quoted, 1) as $i => [$count]) {
                if ($i > 0) {
                    return (int) $count;
                }
            }
        } catch (UnreadableTable) {
            // Counting took too long; the number is known once the records are read.
        }

        return null;
    }

    /** @throws UnreadableTable There is no table … in the database; name a table or write a SELECT. */
    public function write(string $part, string $to, int $most): void
    {
        $quoted = $this->tables()[$part] ?? null;
        if (null === $quoted && 1 !== preg_match('/^\s*(SELECT|WITH)\b/i', $part)) {
            throw new UnreadableTable(\sprintf('There is no table %s in the database; name a table or write a SELECT.', mb_strimwidth($part, 0, 60, '…')));
        }
        self::put($this->records(null !== $quoted ? 'SELECT * FROM '.$quoted : $part, $most), $to);
    }

    /** @return array<string, string> */
    private function tables(): array
    {
        if (null === $this->tables) {
            $this->tables = [];
            $sql = "SELECT n.nspname, c.relname FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
                WHERE c.relkind IN ('r', 'p', 'v', 'm', 'f') AND n.nspname NOT LIKE 'pg\\_%' AND n.nspname <> 'information_schema'
                AND pg_catalog.has_schema_privilege(n.oid, 'USAGE') AND pg_catalog.has_table_privilege(c.oid, 'SELECT') ORDER BY n.nspname <> 'public', 1, 2";
            foreach ($this->records($sql, 2000) as $i => [$schema, $table]) {
                if ($i > 0) {
                    $shown = 'public' === $schema ? (string) $table : $schema.'.'.$table;
                    $this->tables[$shown] = self::named((string) $schema).'.'.self::named((string) $table);
                }
            }
        }

        return $this->tables;
    }

    private static function named(string $name): string
    {
        return '"'.str_replace('"', '""', $name).'"';
    }

    /** @return \Generator<int, list<?string>> the names, then the records */
    private function records(string $sql, int $most): \Generator
    {
        $connection = $this->connect();
        try {
            $until = microtime(true) + $this->seconds;
            $this->ask($connection, 'BEGIN TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY');
            // A snapshot binds the transaction to reading before anything of the user runs in it.
            $this->ask($connection, 'SELECT 1');
            $this->ask($connection, \sprintf('SET LOCAL statement_timeout = %d', 1000 * $this->seconds));
            $this->ask($connection, 'DECLARE records NO SCROLL CURSOR FOR '.rtrim($sql, "; \n\r\t"));
            for ($given = 0, $named = false; $given < $most; $given += $count) {
                $left = $until - microtime(true);
                if ($left <= 0) {
                    throw $this->tookTooLong();
                }
                $this->ask($connection, \sprintf('SET LOCAL statement_timeout = %d', max(1, (int) (1000 * $left))));
                $wanted = min(self::FETCHED_TOGETHER, $most - $given);
                $result = $this->ask($connection, \sprintf('FETCH %d FROM records', $wanted));
                $types = [];
                for ($j = 0, $n = pg_num_fields($result); $j < $n; ++$j) {
                    $types[] = pg_field_type($result, $j);
                }
                if (!$named) {
                    yield self::names($result);
                    $named = true;
                }
                $count = pg_num_rows($result);
                for ($i = 0; $i < $count; ++$i) {
                    yield self::texts(pg_fetch_row($result, $i) ?: [], $types);
                }
                if ($count < $wanted) {
                    return;
                }
            }
        } finally {
            pg_close($connection);
        }
    }

    /** @return list<string> */
    private static function names(\PgSql\Result $result): array
    {
        $names = [];
        for ($j = 0, $n = pg_num_fields($result); $j < $n; ++$j) {
            $names[] = pg_field_name($result, $j);
        }

        return [] === $names ? throw new UnreadableTable('The statement gives no table.') : $names;
    }

    /**
     * @param array<?string> $cells
     * @param list<string>   $types
     *
     * @return list<?string>
     */
    private static function texts(array $cells, array $types): array
    {
        $texts = [];
        foreach (array_values($cells) as $j => $cell) {
            $texts[] = match (true) {
                null === $cell || 'bytea' === $types[$j] => null,
                'bool' === $types[$j] => 't' === $cell ? 'true' : 'false',
                default => mb_scrub($cell),
            };
        }

        return $texts;
    }

    private function connect(): \PgSql\Connection
    {
        $given = [
            'host' => $this->host, 'port' => (string) $this->port, 'dbname' => $this->database, 'user' => $this->user, 'password' => $this->password,
            'sslmode' => $this->ssl, 'gssencmode' => 'disable', 'passfile' => '', 'connect_timeout' => (string) self::CONNECTING_SECONDS,
            'client_encoding' => 'UTF8', 'application_name' => 'dokimos',
            'options' => '-c default_transaction_read_only=on -c datestyle=ISO -c timezone=UTC -c intervalstyle=iso_8601 -c search_path=public',
        ];
        $words = array_map(static fn (string $key, string $value) => $key."='".addcslashes($value, "\\'")."'", array_keys($given), $given);
        $said = '';
        set_error_handler(static function (int $level, string $message) use (&$said): bool {
            $said = $message;

            return true;
        });
        try {
            $connection = pg_connect(implode(' ', $words), \PGSQL_CONNECT_FORCE_NEW);
        } finally {
            restore_error_handler();
        }
        if (false === $connection) {
            throw new UnreadableTable(self::says('No connection to the database', $said));
        }

        return $connection;
    }

    private function tookTooLong(): UnreadableTable
    {
        return new UnreadableTable(\sprintf('The statement took longer than %d second%s. Narrow it and try again.', $this->seconds, 1 === $this->seconds ? '' : 's'));
    }

    private function ask(\PgSql\Connection $connection, string $sql): \PgSql\Result
    {
        $result = @pg_query_params($connection, $sql, []);
        if (false !== $result) {
            return $result;
        }
        $said = pg_last_error($connection);
        throw str_contains($said, 'statement timeout') ? $this->tookTooLong() : new UnreadableTable(self::says('The database says', $said));
    }

    private static function says(string $what, string $said): string
    {
        // The first line names what is wrong; what follows repeats the statement. A web server has warnings written as HTML.
        $said = (string) preg_replace('/^(pg_connect\(\): )?(Unable to connect to PostgreSQL server: )?(connection to server at .* failed: )?((ERROR|FATAL): *)?/', '', trim(explode("\nLINE", html_entity_decode(mb_scrub($said)))[0]));

        return \sprintf('%s: %s. Nothing was imported.', $what, rtrim((string) preg_replace('/\s+/', ' ', $said), '.'));
    }
}
