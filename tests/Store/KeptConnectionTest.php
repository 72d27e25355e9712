<?php

declare(strict_types=1);

namespace App\Tests\Store;

use App\Storage\PostgresMiddleware;
use App\Tests\Browser\Chrome;
use App\Tests\Fixture;
use DAMA\DoctrineTestBundle\PHPUnit\SkipDatabaseRollback;
use Doctrine\DBAL\Connection;
use PHPUnit\Framework\TestCase;
use Symfony\Component\Process\Process;

/** Pages keep their sessions on a database server, and begin others where those were cut. */
#[SkipDatabaseRollback]
final class KeptConnectionTest extends TestCase
{
    private string $data;
    private int $port;
    private ?Process $server = null;

    protected function setUp(): void
    {
        if (!Fixture::isServer()) {
            self::markTestSkipped('SQLite is a file: there is no session to keep.');
        }
        $this->data = sys_get_temp_dir().'/dokimos-kept-'.bin2hex(random_bytes(4));
        Fixture::copy($this->data);
        $this->port = Chrome::freePort();
        $this->server = new Process(
            [\PHP_BINARY, 'bin/console', 'dokimos:serve', '--port='.$this->port],
            \dirname(__DIR__, 2),
            ['APP_ENV' => 'prod', 'DOKIMOS_WORKER_MB' => '64'] + Fixture::at($this->data),
            null,
            null,
        );
        $this->server->disableOutput();
        $this->server->start();
        for ($i = 0; $i < 300 && 200 !== $this->ask(); ++$i) {
            usleep(100_000);
        }
    }

    protected function tearDown(): void
    {
        $this->server?->signal(\SIGTERM);
        $this->server?->wait();
        null === $this->server || Fixture::run(['rm', '-rf', $this->data]);
    }

    /** Status of a page that asks the store. */
    private function ask(): int
    {
        $http_response_header = [];
        @file_get_contents("http://127.0.0.1:{$this->port}/api/setup", false, stream_context_create(['http' => ['ignore_errors' => true]]));

        return (int) (explode(' ', $http_response_header[0] ?? '')[1] ?? 0);
    }

    /** @return list<int> sessions of pages on the server */
    private static function sessions(Connection $sql): array
    {
        return array_map(intval(...), $sql->fetchFirstColumn(
            'SELECT pid FROM pg_stat_activity WHERE datname = current_database() AND application_name = ? ORDER BY pid',
            [PostgresMiddleware::PAGES],
        ));
    }

    public function testASessionServesManyPagesAndOneThatIsCutIsBegunAnew(): void
    {
        $sql = Fixture::sql($this->data);
        $asked = fn (int $times): array => array_count_values(array_map($this->ask(...), range(1, $times)));
        self::assertSame([200 => 40], $asked(40));
        $kept = self::sessions($sql);
        self::assertGreaterThan(0, \count($kept));
        // No more than there are processes that answer pages, and the one that waits for them.
        self::assertLessThanOrEqual(5, \count($kept));
        self::assertSame([200 => 40], $asked(40));
        self::assertSame([], array_diff($kept, self::sessions($sql)), 'each is still there');
        foreach ($kept as $pid) {
            $sql->executeStatement('SELECT pg_terminate_backend(?)', [$pid]);
        }
        self::assertSame([200 => 40], $asked(40), 'nobody notices that sessions were cut');
        self::assertSame([], array_intersect($kept, self::sessions($sql)));
    }
}
