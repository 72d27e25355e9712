<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Http\FullDisk;
use App\Http\LastResort;
use App\Operation\Backup;
use App\Operation\Health;
use App\Storage\Store;
use Doctrine\DBAL\Connection;
use PHPUnit\Framework\Attributes\DataProvider;

/** What an installation says of itself, and what it answers when it cannot work. */
final class OperationTest extends ApiTestCase
{
    private function health(): Health
    {
        return Health::of($this->service(Connection::class), $this->service(Store::class), $_SERVER['DOKIMOS_DATA'], false);
    }

    public function testALaneThatStandsStillIsNamed(): void
    {
        $this->signIn();
        $folder = $_SERVER['DOKIMOS_DATA'].'/workers';
        @mkdir($folder);
        $pulse = static fn (string $lane, int $pid): int|false => file_put_contents(
            "$folder/$pid.json",
            json_encode(['lanes' => [$lane], 'jit' => true, 'pid' => $pid], \JSON_THROW_ON_ERROR),
        );
        try {
            self::assertStringContainsString('No worker is running', implode(' ', $this->health()->says));
            $pulse('quick', (int) getmypid());
            self::assertSame('', implode(' ', $this->health()->says));
            $this->call('POST', '/api/studies/1/tables', ['uploadId' => $this->upload("a,b\n1,2\n", 'a.csv'), 'name' => 'a'], 202);
            self::assertSame('', implode(' ', $this->health()->says), 'it has not waited yet');
            $this->service(Connection::class)->executeStatement(
                "UPDATE job_piece SET waiting_since = ? WHERE lane = 'quick' AND state = 'waiting'",
                [microtime(true) - 120],
            );
            $late = $this->health();
            self::assertSame(
                'Short work has been waiting for over a minute: a worker is held up. quick',
                implode(' ', [...$late->says, ...$late->stuck]),
            );
            self::assertSame($this->health()->says, $this->call('GET', '/api/notices')['says']);
            $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
            $this->call('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => 'baseline'], 202);
            $this->service(Connection::class)->executeStatement(
                "UPDATE job_piece SET waiting_since = ? WHERE state = 'waiting'",
                [microtime(true) - 5],
            );
            self::assertSame('No worker takes long work.', implode(' ', $this->health()->says));
            $pulse('long', (int) posix_getppid());
            self::assertSame('', implode(' ', $this->health()->says));
            // A worker in the middle of long work gives no sign for minutes; one whose process is gone is gone.
            touch("$folder/".getmypid().'.json', time() - 600);
            self::assertCount(2, $this->health()->workers);
            file_put_contents(
                "$folder/999999999.json",
                json_encode(['lanes' => ['quick'], 'jit' => true, 'pid' => 999999999], \JSON_THROW_ON_ERROR),
            );
            touch("$folder/999999999.json", time() - 600);
            self::assertCount(2, $this->health()->workers);
        } finally {
            array_map(unlink(...), glob("$folder/*.json") ?: []);
        }
    }

    /** @return iterable<string, array{\Throwable, bool}> */
    public static function troubles(): iterable
    {
        yield 'the database' => [new \RuntimeException('x', 0, new \RuntimeException('database or disk is full')), true];
        yield 'a file' => [new \ErrorException('fwrite(): Write of 12 bytes failed with errno=28 No space left on device'), true];
        yield 'a mistake' => [new \LogicException('There is no such thing.'), false];
    }

    #[DataProvider('troubles')]
    public function testAFullDiskIsSaidAndAnythingElseKeepsItsSecrets(\Throwable $e, bool $full): void
    {
        self::assertSame($full, FullDisk::isBehind($e));
        $answer = LastResort::answer($e);
        self::assertSame($full ? 507 : 500, $answer->getStatusCode());
        self::assertStringNotContainsString($e->getMessage(), (string) $answer->getContent());
        self::assertStringContainsString($full ? 'it goes on when there is room' : 'Nothing was changed', (string) $answer->getContent());
    }

    public function testABackupIsForItsOwnerAloneAndLeavesNothingWhereItFails(): void
    {
        $folder = sys_get_temp_dir().'/dokimos-backup-'.bin2hex(random_bytes(4));
        mkdir($folder);
        try {
            mkdir($folder.'/b.sqlite.sha256');
            try {
                (new Backup($this->service(Connection::class), $this->service(Store::class), $_SERVER['DOKIMOS_DATA']))->write($folder.'/b.sqlite');
                self::fail('It was written.');
            } catch (\Throwable) {
                self::assertSame([$folder.'/b.sqlite.sha256'], glob($folder.'/*'));
            }
        } finally {
            array_map(static fn (string $f): bool => is_dir($f) ? rmdir($f) : unlink($f), glob($folder.'/*') ?: []);
            rmdir($folder);
        }
    }

    /** Whatever is sent, page, answer, error or file, a browser is told to load nothing from elsewhere and to guess no kind. */
    public function testEveryAnswerTellsBrowsersToLoadNothingFromElsewhere(): void
    {
        foreach (['/', '/study/1/register', '/api/setup', '/api/studies', '/api/nothing', '/app/assets/nothing.js'] as $path) {
            $this->client->request('GET', $path);
            $headers = $this->client->getResponse()->headers;
            self::assertSame(
                ['nosniff', 'same-origin'],
                [$headers->get('X-Content-Type-Options'), $headers->get('Referrer-Policy')],
                $path,
            );
            $policy = [];
            foreach (explode('; ', (string) $headers->get('Content-Security-Policy')) as $line) {
                [$what, $from] = explode(' ', $line, 2);
                $policy[$what] = $from;
            }
            self::assertSame("'self'", $policy['default-src'], $path);
            self::assertSame(
                ["'none'", "'self'", "'self'"],
                [$policy['frame-ancestors'], $policy['base-uri'], $policy['form-action']],
                $path,
            );
            self::assertSame(["'self'", "'none'"], [$policy['script-src'], $policy['object-src']], $path);
            self::assertStringNotContainsString('unsafe', implode(' ', $policy), 'no exceptions');
            $page = (string) $this->client->getResponse()->getContent();
            if (1 === preg_match('/<meta name="style-nonce" content="([0-9a-f]{32})">/', $page, $drawn)) {
                self::assertSame("'self' 'nonce-$drawn[1]'", $policy['style-src']);
            }
        }
    }

    public function testWhatIsNowhereSaysSoPlainly(): void
    {
        $this->client->request('GET', '/app/assets/nothing.js');
        self::assertSame(404, $this->client->getResponse()->getStatusCode());
        self::assertStringContainsString('There is nothing at this address.', (string) $this->client->getResponse()->getContent());
        self::assertSame('nosniff', $this->client->getResponse()->headers->get('X-Content-Type-Options'));
        $this->signIn();
        self::assertSame('There is nothing at this address.', $this->call('GET', '/api/nothing', null, 404)['title']);
    }
}
