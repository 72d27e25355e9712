<?php

declare(strict_types=1);

namespace App\Tests\Api;

use Dokimos\Core\Tests\PostgresCluster;

/** What leaves with a list: cells that would run, markup, long names; and a routine that writes to a database twice. */
final class ListFilesTest extends ApiTestCase
{
    private const CELLS = [
        '=cmd|"/c calc"!A1',
        '<script>alert(1)</script>',
        '+1+1',
        "two\nlines",
        '@SUM(A1)',
        '-2+3',
        'a,"b"',
        '“quoted”',
    ];
    private int $study;
    private int $scoring;

    protected function setUp(): void
    {
        $_SERVER['DOKIMOS_POSTGRES_HOSTS'] = $_ENV['DOKIMOS_POSTGRES_HOSTS'] = '127.0.0.1:'.PostgresCluster::port().' disable';
        parent::setUp();
        $this->signIn();
        $study = $this->study('Nobody home');
        $this->study = (int) $study['id'];
        $source = explode("\n", trim(implode('', iterator_to_array(
            $this->service(\App\Storage\CellStore::class)->source((int) $study['tableId']),
            false,
        ))));
        $quoted = static fn (?string $c): string => '"'.str_replace('"', '""', (string) $c).'"';
        $lines = [trim($source[0]).',"note <b>"'];
        foreach (\array_slice($source, 1, 40) as $i => $line) {
            $lines[] = implode(',', array_map($quoted, [...str_getcsv(trim($line)), self::CELLS[$i % \count(self::CELLS)]]));
        }
        $upload = $this->upload(implode("\n", $lines)."\n", 'hostile.csv');
        $this->call('POST', "/api/studies/$this->study/tables", ['uploadId' => $upload, 'name' => 'hostile <i>'], 202);
        $this->work();
        $table = array_column($this->call('GET', "/api/studies/$this->study/tables"), 'id', 'name')['hostile <i>'];
        $asked = ['trialId' => $study['trials'][0]['id'], 'tableId' => $table, 'cutoff' => 0.1];
        $this->scoring = (int) $this->call('POST', "/api/studies/$this->study/scorings", $asked, 202)['subject'];
        $this->work();
    }

    protected function tearDown(): void
    {
        $_SERVER['DOKIMOS_POSTGRES_HOSTS'] = $_ENV['DOKIMOS_POSTGRES_HOSTS'] = '';
        parent::tearDown();
    }

    /** @return array<mixed> a list of every record that is scored */
    private function everybody(): array
    {
        $terms = ['cost' => 0, 'works' => 1, 'worksHigh' => 1, 'worth' => 100];

        return $this->call('POST', "/api/scorings/$this->scoring/decisions", ['name' => 'All <u>of them</u>', 'terms' => $terms], 201);
    }

    /** @param array<string, mixed> $body */
    private function bytes(int $id, array $body): string
    {
        $this->call('POST', "/api/decisions/$id/file", $body);

        return (string) $this->client->getInternalResponse()->getContent();
    }

    public function testCellsThatWouldRunAreGuardedInEveryForm(): void
    {
        $list = $this->everybody();
        $columns = [['of' => 'note <b>', 'as' => '=HYPERLINK("x")'], ['of' => 'visit_id', 'as' => 'id']];
        $csv = $this->bytes($list['id'], ['columns' => $columns]);
        $file = (string) tempnam(sys_get_temp_dir(), 'list');
        file_put_contents($file, $csv);
        $handle = fopen($file, 'r');
        self::assertNotFalse($handle);
        $seen = [];
        while (\is_array($cells = fgetcsv($handle))) {
            foreach ($cells as $cell) {
                self::assertDoesNotMatchRegularExpression('/^[=+\-@]/', (string) $cell);
            }
            $seen[(string) $cells[0]] = true;
        }
        fclose($handle);
        self::assertArrayHasKey("'=cmd|\"/c calc\"!A1", $seen);
        self::assertArrayHasKey('<script>alert(1)</script>', $seen, 'text that nothing runs stays as it is');
        // A line of JSON holds the cell as it came.
        $json = array_map(
            static fn (string $l): array => (array) json_decode($l, true, 4, \JSON_THROW_ON_ERROR),
            explode("\n", trim($this->bytes($list['id'], ['columns' => $columns, 'format' => 'jsonl']))),
        );
        self::assertCount($list['acted']['actions'], $json);
        self::assertContains("two\nlines", array_column($json, '=HYPERLINK("x")'));
        // In a workbook no cell is a formula.
        file_put_contents($file, $this->bytes($list['id'], ['columns' => $columns, 'format' => 'xlsx']));
        $zip = new \ZipArchive();
        self::assertTrue($zip->open($file));
        $sheet = (string) $zip->getFromName('xl/worksheets/sheet1.xml');
        $zip->close();
        unlink($file);
        self::assertStringNotContainsString('<f>', $sheet);
        self::assertSame(1 + $list['acted']['actions'], substr_count($sheet, '<row '));
    }

    public function testTheSheetRunsNothing(): void
    {
        $list = $this->everybody();
        $this->client->request('GET', "/api/decisions/{$list['id']}/sheet?carry[]=".urlencode('note <b>'));
        $response = $this->client->getResponse();
        $page = (string) $response->getContent();
        self::assertStringContainsString('&lt;script&gt;alert(1)&lt;/script&gt;', $page);
        self::assertStringContainsString('All &lt;u&gt;of them&lt;/u&gt;', $page);
        self::assertStringContainsString('hostile &lt;i&gt;', $page);
        self::assertStringContainsString('note &lt;b&gt;', $page);
        foreach (['<script', '<u>', '<i>', '<b>', 'onerror', 'src='] as $tag) {
            self::assertStringNotContainsString($tag, $page);
        }
        self::assertStringContainsString("default-src 'self'", (string) $response->headers->get('Content-Security-Policy'));
    }

    public function testAReaderTakesNothingAlongAndChangesNothing(): void
    {
        $list = $this->everybody();
        $reader = $this->service(\App\Account\Accounts::class)->add('rita', 'Rita Lorne', 'a-long-password');
        $study = $this->entities()->find(\App\Study\Study::class, $this->study);
        self::assertNotNull($study);
        $this->entities()->persist(new \App\Study\StudyMember($study, $reader, \App\Study\Role::Reader));
        $this->entities()->flush();
        $this->signIn('rita');
        self::assertSame($list['acted'], $this->call('GET', "/api/decisions/{$list['id']}")['acted'], 'looked at it may be');
        foreach (['file' => [], 'export' => ['table' => 'x'], 'export/plan' => ['table' => 'x'], 'measure' => []] as $path => $body) {
            $this->call('POST', "/api/decisions/{$list['id']}/$path", $body, 403);
        }
        $this->call('GET', "/api/decisions/{$list['id']}/sheet", null, 403);
        $this->call('PUT', "/api/decisions/{$list['id']}", [], 403, ['If-Match' => '1']);
        $this->call('DELETE', "/api/decisions/{$list['id']}", null, 403);
        $this->call('POST', "/api/scorings/$this->scoring/decisions", [], 403);
        $this->call('POST', "/api/scorings/$this->scoring/table", ['name' => 'x'], 403);
    }

    public function testARoutineThatWritesToADatabaseTwiceDoublesNothing(): void
    {
        $connection = $this->call('POST', '/api/connections', [
            'host' => '127.0.0.1:'.PostgresCluster::port(),
            'database' => 'company',
            'login' => PostgresCluster::READER,
            'password' => PostgresCluster::PASSWORD,
        ], 201)['id'];
        $this->entities()->createQuery('UPDATE App\Source\DatabaseConnection c SET c.login = :w, c.database = :d')
            ->setParameters(['w' => PostgresCluster::WRITER, 'd' => 'lists'])->execute();
        $this->entities()->clear();
        $scored = $this->call('GET', "/api/scorings/$this->scoring");
        $plan = [
            'table' => 'hostile <i>',
            'cutoff' => 0.1,
            'terms' => ['cost' => 0, 'works' => 1, 'worksHigh' => 1, 'worth' => 100],
            'export' => ['connectionId' => $connection, 'table' => 'nightly', 'mode' => 'append', 'key' => 'visit_id'],
        ];
        $asked = ['trialId' => $scored['trialId'], 'name' => 'Nightly', 'plan' => $plan];
        $routine = $this->call('POST', "/api/studies/$this->study/routines", $asked, 201)['id'];
        $said = [];
        foreach ([1, 2] as $_) {
            $this->call('POST', "/api/routines/$routine/run", null, 202);
            $this->work();
            $said[] = $this->call('GET', "/api/studies/$this->study/routines")[0]['says'];
        }
        self::assertStringContainsString($scored['scored'].' written to nightly', $said[0]);
        self::assertStringContainsString('0 written to nightly', $said[1]);
        $dsn = \sprintf('pgsql:host=127.0.0.1;port=%d;dbname=lists;sslmode=disable', PostgresCluster::port());
        $rows = (new \PDO(
            $dsn,
            PostgresCluster::WRITER,
            PostgresCluster::PASSWORD,
        ))->query('SELECT count(*), count(DISTINCT visit_id) FROM nightly');
        self::assertSame([[$scored['scored'], $scored['scored']]], false === $rows ? [] : $rows->fetchAll(\PDO::FETCH_NUM));
    }
}
