<?php

declare(strict_types=1);

namespace App\Tests\Source;

use App\Source\ContainerApart;
use Dokimos\Core\Format\UnreadableTable;
use Dokimos\Core\Progress;
use Dokimos\Core\Stopped;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What a container does to itself stays with the process that reads it. */
final class ContainerApartTest extends TestCase
{
    private string $path = '';

    protected function setUp(): void
    {
        $this->path = sys_get_temp_dir().'/'.bin2hex(random_bytes(4)).'.sqlite';
        $database = new \SQLite3($this->path);
        $database->exec("CREATE TABLE visits (id INTEGER, note TEXT); INSERT INTO visits VALUES (1, 'a'), (2, 'b, c');
            CREATE VIEW endless AS WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) SELECT count(*) AS many FROM n");
        $database->close();
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob($this->path.'*') ?: []);
    }

    private function container(int $seconds = 1, ?Progress $progress = null): ContainerApart
    {
        $container = ContainerApart::of($this->path, $seconds, \dirname(__DIR__, 2), $progress);
        self::assertNotNull($container);

        return $container;
    }

    public function testTablesViewsAndSelectsAreRead(): void
    {
        $container = $this->container();
        self::assertSame(['database', ['endless', 'visits'], 2], [$container->what(), $container->parts(), $container->about('visits')]);
        $container->write('visits', $this->path.'.csv', 10);
        self::assertSame("id,note\n1,a\n2,\"b, c\"\n", file_get_contents($this->path.'.csv'));
        $container->write('SELECT id FROM visits ORDER BY id DESC', $this->path.'.csv', 1);
        self::assertSame("id\n2\n", file_get_contents($this->path.'.csv'));
        file_put_contents($this->path.'.txt', "a,b\n1,2\n");
        self::assertNull(ContainerApart::of($this->path.'.txt', 1, \dirname(__DIR__, 2)));
    }

    /** @return iterable<string, array{string, string}> statement and what is said */
    public static function statements(): iterable
    {
        yield 'a view that never ends' => ['endless', 'more than 1 second of computing'];
        yield 'a statement that never ends' => [
            'WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) SELECT max(i) FROM n',
            'more than 1 second of computing',
        ];
        yield 'a cell larger than memory' => [
            'SELECT zeroblob(900000000) || hex(zeroblob(400000000)) AS x',
            'MB that it may use|too big|out of memory',
        ];
        yield 'many large cells at once' => [
            'WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 40) SELECT group_concat(hex(zeroblob(20000000))) AS x FROM n',
            'MB that it may use|too big|out of memory',
        ];
        yield 'another file' => ["ATTACH '/tmp/x.sqlite' AS other", 'name a table or write a SELECT'];
        yield 'a table that is none' => ['SELECT * FROM nobody', 'no such table'];
    }

    #[DataProvider('statements')]
    public function testAStatementEndsByItselfAndIsSaid(string $statement, string $says): void
    {
        try {
            $this->container(str_contains($statement, 'blob') ? 10 : 1)->write($statement, $this->path.'.csv', 1000);
            self::fail('It was read.');
        } catch (UnreadableTable $e) {
            self::assertMatchesRegularExpression('/'.$says.'/', $e->getMessage());
        }
        self::assertLessThan(200 << 20, memory_get_peak_usage(true), 'the one that asks holds nothing of it');
    }

    public function testCancellingEndsTheProcess(): void
    {
        $progress = new class implements Progress {
            public int $asked = 0;

            public function report(float $share, string $message = ''): void
            {
                if (++$this->asked > 5) {
                    throw new Stopped();
                }
            }
        };
        try {
            $this->container(20, $progress)->write('endless', $this->path.'.csv', 10);
            self::fail('It went on.');
        } catch (Stopped) {
        }
        exec('pgrep -f '.escapeshellarg($this->path), $left);
        self::assertSame(
            [],
            array_filter(
                $left,
                static fn (string $pid): bool => is_dir('/proc/'.$pid) && str_contains(
                    (string) @file_get_contents("/proc/$pid/cmdline"),
                    'read-container',
                ),
            ),
        );
    }
}
