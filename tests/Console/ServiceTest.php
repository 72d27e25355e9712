<?php

declare(strict_types=1);

namespace App\Tests\Console;

use App\Tests\Browser\Chrome;
use App\Tests\Fixture;
use DAMA\DoctrineTestBundle\PHPUnit\SkipDatabaseRollback;
use PHPUnit\Framework\TestCase;
use Symfony\Component\Process\Process;

/** A service by real calls: approved, opened and called from the command line, switched while it is called, and held to its limits. */
#[SkipDatabaseRollback]
final class ServiceTest extends TestCase
{
    private string $data;
    private int $port;
    private Process $server;

    protected function setUp(): void
    {
        $this->data = sys_get_temp_dir().'/dokimos-service-'.bin2hex(random_bytes(4));
        Fixture::copy($this->data);
        $this->port = Chrome::freePort();
        $this->server = new Process(
            [\PHP_BINARY, 'bin/console', 'dokimos:serve', '--port='.$this->port],
            \dirname(__DIR__, 2),
            ['APP_ENV' => 'prod', 'APP_SECRET' => 'test', 'DOKIMOS_WORKER_MB' => '64'] + Fixture::at($this->data),
            null,
            null,
        );
        // What it prints of each call would fill a pipe that nobody reads.
        $this->server->disableOutput();
        $this->server->start();
    }

    protected function tearDown(): void
    {
        $this->server->signal(\SIGTERM);
        $this->server->wait();
        Fixture::run(['rm', '-rf', $this->data]);
    }

    /** @param list<string> $arguments */
    private function console(array $arguments, bool $must = true): string
    {
        $process = new Process(
            [\PHP_BINARY, 'bin/console', ...$arguments],
            \dirname(__DIR__, 2),
            ['APP_ENV' => 'prod', 'APP_SECRET' => 'test'] + Fixture::at($this->data),
            null,
            120,
        );
        $process->run();
        if ($must) {
            self::assertSame(0, $process->getExitCode(), $process->getOutput().$process->getErrorOutput());
        }

        return $process->getOutput();
    }

    /**
     * @param array<array-key, mixed>|string $body
     *
     * @return array{int, array<array-key, mixed>, string} status, what is said, and its headers
     */
    private function post(string $path, string $token, array|string $body): array
    {
        $text = '';
        for ($i = 0; $i < 150; ++$i) {
            $text = @file_get_contents('http://127.0.0.1:'.$this->port.$path, false, stream_context_create(['http' => [
                'method' => 'POST',
                'header' => ['Authorization: Bearer '.$token, 'Content-Type: application/json'],
                'content' => \is_string($body) ? $body : json_encode($body, \JSON_THROW_ON_ERROR),
                'ignore_errors' => true,
            ]]));
            if (\is_string($text)) {
                break;
            }
            usleep(100_000);
        }
        $headers = $http_response_header;
        $said = json_decode((string) $text, true);

        return [(int) (explode(' ', $headers[0] ?? '')[1] ?? 0), \is_array($said) ? $said : [], implode("\n", $headers)];
    }

    public function testNoCallIsLostWhileVersionsSwitch(): void
    {
        $approve = static fn (string $trial): array => [
            'dokimos:approve',
            '2',
            $trial,
            '--sentence=Examined.',
            '--limits=None else.',
            '--again=2099-01-01',
            '--cutoff=0.2',
            '--by=mara',
        ];
        self::assertStringContainsString(
            'does not own',
            $this->console(['dokimos:approve', '2', '1', '--sentence=x', '--limits=y', '--again=2099-01-01', '--by=nobody'], false),
        );
        self::assertStringContainsString('approved as number 1', $this->console($approve('1')));
        self::assertStringContainsString('approved as number 2', $this->console($approve('2')));
        $said = $this->console(
            ['dokimos:service', 'nobody-home', '--study=2', '--approval=1', '--token=Dispatch', '--host=http://127.0.0.1:'.$this->port],
        );
        self::assertSame(1, preg_match('/^TOKEN=(\S+)$/m', $said, $found));
        $token = $found[1];

        // The printed example, run as it stands.
        $lines = explode("\n", $said);
        $command = implode(
            "\n",
            \array_slice($lines, (int) array_key_first(array_filter($lines, static fn (string $l): bool => str_starts_with($l, 'curl ')))),
        );
        $curl = new Process(
            ['sh', '-c', str_replace('curl -X', 'curl -s --retry 20 --retry-delay 1 --retry-connrefused -X', $command)],
            null,
            ['TOKEN' => $token],
        );
        $curl->mustRun();
        $told = (array) json_decode($curl->getOutput(), true);
        self::assertSame(1, $told['version'] ?? null, $curl->getOutput());
        self::assertIsFloat($told['chance']);
        self::assertSame(1, preg_match("/-d '(.*)'/s", $command, $body));
        $record = (array) json_decode($body[1], true);

        // Nothing is kept of what was sent, until the owner asks for it; and it goes when the owner no longer does.
        $kept = fn (): array => glob($this->data.'/serve/kept-*/*.jsonl') ?: [];
        self::assertSame([], $kept());
        $this->console(['dokimos:service', 'nobody-home', '--keep=7']);
        $curl->mustRun();
        self::assertCount(1, $kept());
        $old = \dirname($kept()[0]).'/2020-01-01.jsonl';
        file_put_contents($old, "{}\n");
        $line = (array) json_decode((string) file_get_contents($kept()[1]), true);
        self::assertSame([1, [$record]], [$line['version'] ?? null, $line['records'] ?? null]);
        $this->console(['dokimos:service', 'nobody-home']);
        self::assertFileDoesNotExist($old, 'days that are over go when somebody looks');
        self::assertCount(1, $kept());
        $this->console(['dokimos:service', 'nobody-home', '--keep=0']);
        self::assertSame([], $kept());

        // A caller goes on calling while the version is switched and switched back: every call is answered, by one version or the other.
        $caller = new Process([\PHP_BINARY, '-r', <<<'PHP'
            [, $url, $token, $body] = $argv;
            $seen = [];
            for ($i = 0; $i < 1500; ++$i) {
                $http = ['method' => 'POST', 'header' => ["Authorization: Bearer $token"], 'content' => $body, 'ignore_errors' => true];
                $text = file_get_contents($url, false, stream_context_create(['http' => $http]));
                $said = json_decode((string) $text, true);
                $key = isset($said['chance']) ? 'v'.$said['version'] : (string) $text;
                $seen[$key] = ($seen[$key] ?? 0) + 1;
            }
            echo json_encode($seen);
            PHP, 'http://127.0.0.1:'.$this->port.'/serve/nobody-home', $token, json_encode($record, \JSON_THROW_ON_ERROR)], null, null, null, 120);
        $sql = Fixture::sql($this->data);
        $sql->executeStatement('UPDATE service_token SET per_minute = 100000');
        $caller->start();
        usleep(400_000);
        $this->console(['dokimos:service', 'nobody-home', '--approval=2']);
        usleep(200_000);
        $this->console(['dokimos:service', 'nobody-home', '--approval=1']);
        $caller->wait();
        $seen = (array) json_decode($caller->getOutput(), true);
        self::assertSame(1500, array_sum(array_map(intval(...), $seen)), $caller->getOutput());
        self::assertSame([], array_diff(array_keys($seen), ['v1', 'v2']), $caller->getOutput());
        self::assertArrayHasKey('v2', $seen);
        // The same record gets the same answer of the same version.
        self::assertSame($told['chance'], $this->post('/serve/nobody-home', $token, $record)[1]['chance']);

        // Many records at once, one of them not to be answered; and what is counted.
        [$status, $many] = $this->post('/serve/nobody-home', $token, [$record, ['nothing' => 1]]);
        self::assertSame([200, $told['chance']], [$status, $many['answers'][0]['chance']]);
        self::assertStringContainsString('not given', $many['answers'][1]['refused']);
        // What was counted before anybody looked is there beside what was noted since.
        self::assertMatchesRegularExpression('/^[1-9][\d,]* counted/m', $this->console(['dokimos:calls']));
        self::assertMatchesRegularExpression('/^0 counted/m', $this->console(['dokimos:calls']));
        $this->post('/serve/nobody-home', $token, $record);
        $says = $this->console(['dokimos:service', 'nobody-home']);
        self::assertStringContainsString('1,505 calls', $says);
        self::assertStringContainsString('1 record was refused', $says);
        $tally = $sql->fetchNumeric('SELECT SUM(calls), SUM(records), SUM(refused) FROM service_tally');
        self::assertSame([1505, 1506, 1], array_map(intval(...), (array) $tally));
        self::assertSame('', (string) @file_get_contents($this->data.'/serve-calls.log'));
    }

    public function testWhatIsNotAnsweredSaysWhy(): void
    {
        $this->console(['dokimos:approve', '2', '1', '--sentence=Examined.', '--limits=None else.', '--again=2099-01-01']);
        $said = $this->console(['dokimos:service', 'nobody-home', '--study=2', '--approval=1', '--token=Dispatch']);
        self::assertSame(1, preg_match('/^TOKEN=(\S+)$/m', $said, $found));
        $token = $found[1];
        $sql = Fixture::sql($this->data);
        $cases = [
            'no token' => ['/serve/nobody-home', '', [], 401],
            'another token' => ['/serve/nobody-home', 'dk_guess', [], 401],
            'another service' => ['/serve/other', $token, [], 401],
            'no name' => ['/serve/../api/studies', $token, [], 404],
            'no JSON' => ['/serve/nobody-home', $token, '{"days_ahead": ', 422],
            'a number alone' => ['/serve/nobody-home', $token, '7', 422],
            'an empty record' => ['/serve/nobody-home', $token, '{}', 422],
            'too many records' => ['/serve/nobody-home', $token, array_fill(0, 1001, new \stdClass()), 422],
        ];
        foreach ($cases as $case => [$path, $shown, $body, $status]) {
            [$got, $problem, $headers] = $this->post($path, $shown, $body);
            self::assertSame($status, $got, $case.': '.json_encode($problem));
            self::assertNotSame('', (string) ($problem['title'] ?? $problem['refused'] ?? ''), $case);
            self::assertStringContainsString('nosniff', $headers);
            self::assertStringNotContainsString('.php', (string) json_encode($problem), 'no trace of the program');
        }
        $sql->executeStatement('UPDATE service_token SET per_minute = 3');
        $states = array_map(fn (int $i): int => $this->post('/serve/nobody-home', $token, '{}')[0], range(1, 5));
        self::assertContains(429, $states);
        $sql->executeStatement('UPDATE service_token SET per_minute = 1000, revoked_at = CURRENT_TIMESTAMP');
        self::assertSame(401, $this->post('/serve/nobody-home', $token, '{}')[0]);
        $sql->executeStatement("UPDATE service_token SET revoked_at = NULL, expires = '2020-01-01'");
        self::assertSame(401, $this->post('/serve/nobody-home', $token, '{}')[0]);
        $sql->executeStatement('UPDATE service_token SET expires = NULL, reasons = FALSE');
        self::assertSame(403, $this->post('/serve/nobody-home?reasons=1', $token, '{}')[0]);
        $this->console(['dokimos:service', 'nobody-home', '--pause']);
        [$status, $problem] = $this->post('/serve/nobody-home', $token, '{}');
        self::assertSame([503, 'The service is paused.'], [$status, $problem['title']]);
        $this->console(['dokimos:service', 'nobody-home', '--resume']);
        $sql->executeStatement('UPDATE approval SET withdrawn_at = CURRENT_TIMESTAMP');
        self::assertSame(503, $this->post('/serve/nobody-home', $token, '{}')[0]);
    }
}
