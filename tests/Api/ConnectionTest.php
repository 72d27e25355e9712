<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Account\Accounts;
use App\Source\DatabaseConnection;
use Dokimos\Core\Tests\PostgresCluster;

/** A database on a server as the source of a table. */
final class ConnectionTest extends ApiTestCase
{
    private string $host;

    protected function setUp(): void
    {
        $this->host = '127.0.0.1:'.PostgresCluster::port();
        $_SERVER['DOKIMOS_POSTGRES_HOSTS'] = $_ENV['DOKIMOS_POSTGRES_HOSTS'] = $this->host.' disable, elsewhere.example';
        parent::setUp();
        $this->signIn();
    }

    protected function tearDown(): void
    {
        $_SERVER['DOKIMOS_POSTGRES_HOSTS'] = $_ENV['DOKIMOS_POSTGRES_HOSTS'] = '';
        parent::tearDown();
    }

    private function add(): int
    {
        $id = $this->call(
            'POST',
            '/api/connections',
            ['host' => $this->host, 'database' => 'company', 'login' => PostgresCluster::READER, 'password' => PostgresCluster::PASSWORD],
            201,
        )['id'];
        \assert(\is_int($id));

        return $id;
    }

    public function testADatabaseWithoutTablesIsAPlaceForListsWhereTablesMayBeMade(): void
    {
        $asked = ['host' => $this->host, 'login' => PostgresCluster::WRITER, 'password' => PostgresCluster::PASSWORD];
        $refused = $this->call('POST', '/api/connections', ['database' => 'postgres'] + $asked, 422);
        self::assertStringContainsString('holds no table that writer may read', $refused['title']);
        $id = $this->call('POST', '/api/connections', ['database' => 'empty'] + $asked, 201)['id'];
        // Reading from it says what is not there.
        $upload = $this->call('POST', "/api/connections/$id/upload", [], 201)['id'];
        self::assertStringContainsString('holds no table', $this->call('GET', "/api/uploads/$upload/reading", null, 422)['title']);
    }

    /** The same records every time, and weights that bring a sample back to all. */
    public function testASampleIsDrawnWhereTheDataLie(): void
    {
        $id = $this->add();
        $rows = function (array $asked) use ($id): array {
            $part = $this->call('POST', '/api/connections/sample', $asked)['part'];
            $upload = $this->call('POST', "/api/connections/$id/upload", [], 201);
            $reading = $this->call('GET', '/api/uploads/'.$upload['id'].'/reading?'.http_build_query(['part' => $part, 'most' => 100000]));

            return [$reading['names'], $reading['records'], $reading['most'], $part];
        };
        $all = 'SELECT a, a % 7 AS rest FROM generate_series(1, 5000) a';
        [$names, $records, , $part] = $rows(['part' => $all, 'key' => 'a', 'share' => 0.2]);
        self::assertSame(['a', 'rest'], $names);
        self::assertSame($records, $rows(['part' => $all, 'key' => 'a', 'share' => 0.2])[1]);
        $pdo = new \PDO(
            'pgsql:host=127.0.0.1;dbname=company;port='.PostgresCluster::port(),
            PostgresCluster::READER,
            PostgresCluster::PASSWORD,
        );
        $count = static fn (string $select): array => (array) ($pdo->query($select) ?: throw new \RuntimeException())->fetch(\PDO::FETCH_NUM);
        self::assertEqualsWithDelta(1000, (int) $count("SELECT COUNT(*) FROM ($part) s")[0], 100);
        // A smaller share is part of a larger one.
        $smaller = $this->call('POST', '/api/connections/sample', ['part' => $all, 'key' => 'a', 'share' => 0.05])['part'];
        self::assertSame(0, (int) $count("SELECT COUNT(*) FROM ($smaller) s WHERE a NOT IN (SELECT a FROM ($part) t)")[0]);
        $each = $this->call('POST', '/api/connections/sample', ['part' => $all, 'key' => 'a', 'by' => 'rest', 'each' => 40])['part'];
        self::assertEqualsWithDelta(
            [280.0, 5000.0],
            array_map(floatval(...), $count("SELECT COUNT(*), SUM(sample_weight) FROM ($each) s")),
            1e-6,
        );
        $this->call('POST', '/api/connections/sample', ['part' => 'visits', 'key' => 'a', 'share' => 1.5], 422);
        $this->call('POST', '/api/connections/sample', ['part' => 'visits', 'key' => ''], 422);
    }

    public function testATableOfAServerIsReadFromTheFirstLookToTheRegister(): void
    {
        $upload = $this->call('POST', \sprintf('/api/connections/%d/upload', $this->add()), [], 201);
        self::assertSame(['company', 0, 0], [$upload['fileName'], $upload['size'], $upload['received']]);
        $path = '/api/uploads/'.$upload['id'].'/reading';
        $reading = $this->call('GET', $path);
        self::assertSame(
            ['database', ['late', 'visits', 'old.odd "name"'], 'late', 1, 5000000],
            [$reading['container'], $reading['parts'], $reading['part'], $reading['held'], $reading['most']],
        );
        $select = 'SELECT a, a % 7 AS rest FROM old."odd ""name""" ORDER BY a';
        $reading = $this->call('GET', $path.'?'.http_build_query(['part' => $select, 'most' => 1200]));
        self::assertSame(
            [['a', 'rest'], ['1', '1'], null, 1200],
            [$reading['names'], $reading['records'][0] ?? null, $reading['held'], $reading['most']],
        );
        self::assertSame(
            'The database says: relation "nothing" does not exist. Nothing was imported.',
            $this->call('GET', $path.'?part=SELECT+1+FROM+nothing', null, 422)['title'],
        );
        $this->call('GET', $path.'?most=0', null, 422);

        $study = $this->study('Return visits')['id'];
        $job = $this->call(
            'POST',
            \sprintf('/api/studies/%d/tables', $study),
            ['uploadId' => $upload['id'], 'name' => 'from the server', 'part' => $select, 'most' => 1200],
            202,
        );
        $this->work();
        $table = $this->call('GET', '/api/tables/'.$job['subject']);
        self::assertSame(['ready', 1200, ['a', 'rest']], [$table['state'], $table['rows'], array_column($table['columns'], 'name')]);
        $this->call('GET', $path, null, 404);
    }

    public function testThePasswordIsNeitherKeptInTheOpenNorShown(): void
    {
        $id = $this->add();
        self::assertSame(
            [
                'hosts' => [$this->host, 'elsewhere.example:5432'],
                'connections' => [['id' => $id, 'host' => $this->host, 'database' => 'company', 'login' => 'reader']],
            ],
            $this->call('GET', '/api/connections'),
        );
        $kept = $this->entities()->find(DatabaseConnection::class, $id);
        self::assertNotNull($kept);
        foreach ([PostgresCluster::PASSWORD, base64_encode(PostgresCluster::PASSWORD)] as $open) {
            self::assertStringNotContainsString($open, $kept->sealed().base64_decode($kept->sealed()));
        }
        // Sealed with a key of an earlier life of the installation.
        $this->entities()->getConnection()->executeStatement(
            'UPDATE database_connection SET sealed = ? WHERE id = ?',
            [base64_encode(random_bytes(80)), $id],
        );
        $this->entities()->clear();
        $upload = $this->call('POST', '/api/connections/'.$id.'/upload', [], 201);
        self::assertStringContainsString(
            'kept with another key',
            $this->title($this->call('GET', '/api/uploads/'.$upload['id'].'/reading', null, 409)),
        );
    }

    /** @param array<mixed> $problem */
    private function title(array $problem): string
    {
        \assert(\is_string($problem['title']));

        return $problem['title'];
    }

    public function testAConnectionThatDoesNotWorkOrIsNotAllowedIsNotKept(): void
    {
        $given = ['host' => $this->host, 'database' => 'company', 'login' => 'reader', 'password' => 'wrong'];
        foreach ([
            [$given, 'password authentication failed'],
            [['host' => '127.0.0.1:5432'] + $given, 'is not among the servers that may be read from'],
            [['host' => "127.0.0.1:5432' host='x"] + $given, 'is not among the servers'],
            [['database' => ' '] + $given, 'needs its name'],
            [['login' => ''] + $given, 'Say as whom'],
        ] as [$body, $says]) {
            self::assertStringContainsString($says, $this->title($this->call('POST', '/api/connections', $body, 422)));
        }
        self::assertSame([], $this->call('GET', '/api/connections')['connections']);
    }

    public function testNobodyElseMayUseItAndItCanBeForgotten(): void
    {
        $id = $this->add();
        $this->service(Accounts::class)->add('otto', 'Otto Venn', 'a-long-password');
        $this->signIn('otto');
        self::assertSame([], $this->call('GET', '/api/connections')['connections']);
        $this->call('POST', '/api/connections/'.$id.'/upload', [], 404);
        $this->call('DELETE', '/api/connections/'.$id, null, 404);
        $this->signIn();
        $upload = $this->call('POST', '/api/connections/'.$id.'/upload', [], 201);
        $this->call('DELETE', '/api/connections/'.$id, null, 204);
        $this->entities()->clear();
        $this->call('GET', '/api/uploads/'.$upload['id'].'/reading', null, 404);
    }
}
