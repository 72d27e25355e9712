<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\ServerDatabase;
use Dokimos\Core\Format\UnreadableTable;
use Dokimos\Core\Tests\PostgresCluster;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** A PostgreSQL server is read and cannot be changed, not even by a role that might. */
final class ServerDatabaseTest extends TestCase
{
    private static function database(
        string $password = PostgresCluster::PASSWORD,
        string $name = 'company',
        int $seconds = 20,
    ): ServerDatabase {
        return new ServerDatabase('127.0.0.1', PostgresCluster::port(), $name, PostgresCluster::READER, $password, seconds: $seconds);
    }

    private static function read(string $part, int $most = 10000, int $seconds = 20): string
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'server');
        try {
            self::database(seconds: $seconds)->write($part, $file, $most);

            return (string) file_get_contents($file);
        } finally {
            unlink($file);
        }
    }

    public function testTablesThatMayBeReadAreListedAndCounted(): void
    {
        $database = self::database();
        self::assertSame(['late', 'visits', 'old.odd "name"'], $database->parts());
        self::assertSame([1, 3, 5000, null], array_map($database->about(...), ['late', 'visits', 'old.odd "name"', 'wages']));
    }

    public function testCellsBecomeTextThatIsReadBackAsWhatTheyWere(): void
    {
        self::assertSame(<<<'CSV'
            id,when,km,at_night,note,photo,far
            1,2026-03-14 09:00:00+00,12.50,true,"a ""word"", and more",,0.1
            2,,,false,"two
            lines",,1e+300
            3,2026-03-15 00:00:00+00,-3.00,,,,NaN

            CSV, self::read('visits'));
    }

    public function testNoMoreRecordsAreTakenThanWanted(): void
    {
        self::assertSame("a\n1\n2\n3\n", self::read('old.odd "name"', 3));
        // More than are fetched together.
        self::assertSame(4501, substr_count(self::read('old.odd "name"', 4500), "\n"));
        self::assertSame("n\n7\n", self::read("SELECT 7 AS n ; \n"));
        self::assertSame("km\n", self::read('WITH x AS (SELECT km FROM visits) SELECT * FROM x WHERE false'));
    }

    /** @return iterable<string, array{string, string}> */
    public static function refused(): iterable
    {
        yield 'a table that may not be read' => ['SELECT * FROM wages', 'permission denied for table wages'];
        yield 'two statements' => ['SELECT 1; DELETE FROM visits', 'cannot insert multiple commands'];
        yield 'out of the transaction' => ['SELECT 1; COMMIT', 'cannot insert multiple commands'];
        yield 'a change' => ['DELETE FROM visits', 'There is no table DELETE FROM visits'];
        yield 'a change within' => [
            'WITH x AS (DELETE FROM visits RETURNING *) SELECT * FROM x',
            'must not contain data-modifying statements',
        ];
        yield 'a change by a function' => ['SELECT change_it()', 'cannot execute DELETE in a read-only transaction'];
        yield 'a change of the transaction' => [
            "SELECT set_config('transaction_read_only', 'off', false)",
            'transaction read-write mode must be set before any query',
        ];
        yield 'a new table' => ['SELECT * INTO copy FROM visits', 'INTO is not allowed here'];
        yield 'a file of the server' => ["SELECT pg_read_file('/etc/passwd')", 'permission denied'];
        yield 'no statement' => ['SELECT FROM WHERE', 'syntax error'];
        yield 'no column' => ['SELECT', 'gives no table'];
        yield 'a table that is not there' => ['VISITS', 'There is no table VISITS'];
    }

    #[DataProvider('refused')]
    public function testWhatWouldReachBeyondReadingIsRefused(string $statement, string $says): void
    {
        try {
            self::read($statement);
            self::fail('It was read.');
        } catch (UnreadableTable $e) {
            self::assertMatchesRegularExpression('/'.$says.'/', $e->getMessage());
            self::assertStringNotContainsString('secret', $e->getMessage());
        }
        self::assertSame(3, self::database()->about('visits'));
    }

    public function testAStatementIsStoppedInTime(): void
    {
        foreach ([
            'SELECT pg_sleep(30)',
            "SELECT set_config('statement_timeout', '0', false), pg_sleep(0.5) FROM generate_series(1, 60)",
        ] as $statement) {
            $start = microtime(true);
            try {
                self::read($statement, seconds: 1);
                self::fail('It was not stopped.');
            } catch (UnreadableTable $e) {
                self::assertSame('The statement took longer than 1 second. Narrow it and try again.', $e->getMessage());
            }
            self::assertLessThan(15, microtime(true) - $start);
        }
    }

    /** @return iterable<string, array{\Closure(): ServerDatabase, string}> */
    public static function unreachable(): iterable
    {
        yield 'a wrong password' => [
            static fn () => self::database("x' host='elsewhere"),
            '/^No connection to the database: password authentication failed for user "reader"\. Nothing was imported\.$/',
        ];
        yield 'no such database' => [static fn () => self::database(name: 'nowhere'), '/database "nowhere" does not exist/'];
        yield 'nobody listens' => [static fn () => new ServerDatabase('127.0.0.1', 1, 'company', 'reader', 'x'), '/Connection refused/'];
        yield 'nothing to read' => [static fn () => self::database(name: 'postgres'), '/holds no table that reader may read/'];
    }

    /** @param \Closure(): ServerDatabase $database */
    #[DataProvider('unreachable')]
    public function testWhyThereIsNoConnectionIsSaid(\Closure $database, string $says): void
    {
        $this->expectException(UnreadableTable::class);
        $this->expectExceptionMessageMatches($says);
        $database()->parts();
    }
}
