<?php

declare(strict_types=1);

namespace App\Tests\Console;

use App\Tests\Fixture;
use DAMA\DoctrineTestBundle\PHPUnit\SkipDatabaseRollback;
use PHPUnit\Framework\TestCase;
use Symfony\Component\Process\Process;

/** One supervisor: starts again what ends, and stops all of it together. */
#[SkipDatabaseRollback]
final class ServeTest extends TestCase
{
    private string $data;
    private int $port;
    private Process $server;

    protected function setUp(): void
    {
        $this->data = sys_get_temp_dir().'/dokimos-serve-'.bin2hex(random_bytes(4));
        Fixture::copy($this->data);
        $socket = stream_socket_server('tcp://127.0.0.1:0');
        self::assertNotFalse($socket);
        $this->port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
        $this->server = $this->start();
        $this->until(static fn (array $health): bool => 3 === \count($health['workers'] ?? []));
    }

    protected function tearDown(): void
    {
        if ($this->server->isRunning()) {
            $this->server->signal(\SIGTERM);
            $this->server->wait();
        }
        Fixture::run(['rm', '-rf', $this->data]);
    }

    private function start(): Process
    {
        $process = new Process(
            [\PHP_BINARY, 'bin/console', 'dokimos:serve', '--port='.$this->port],
            \dirname(__DIR__, 2),
            ['APP_ENV' => 'prod', 'DOKIMOS_WORKER_MB' => '64'] + Fixture::at($this->data),
            null,
            null,
        );
        $process->start();

        return $process;
    }

    /**
     * @param \Closure(array<mixed>): bool $holds
     *
     * @return array<mixed>
     */
    private function until(\Closure $holds): array
    {
        $health = [];
        for ($i = 0; $i < 300; ++$i) {
            $health = json_decode(
                (string) @file_get_contents(
                    'http://127.0.0.1:'.$this->port.'/api/health',
                    false,
                    stream_context_create(['http' => ['ignore_errors' => true]]),
                ),
                true,
            ) ?? [];
            if (\is_array($health) && $holds($health)) {
                return $health;
            }
            usleep(100000);
        }
        self::fail('It did not come to that: '.json_encode($health).$this->server->getOutput().$this->server->getErrorOutput());
    }

    public function testAKilledWorkerComesBackAndStoppingStopsAll(): void
    {
        $health = $this->until(static fn (array $h): bool => true === ($h['well'] ?? false));
        self::assertTrue($health['jit'], 'the workers run with JIT');
        $pids = array_column($health['workers'], 'pid');
        posix_kill($pids[0], \SIGKILL);
        $back = $this->until(static fn (array $h): bool => 3 === \count($h['workers'] ?? []) && !\in_array(
            $pids[0],
            array_column($h['workers'], 'pid'),
            true,
        ));
        $this->server->signal(\SIGTERM);
        $this->server->wait();
        self::assertStringContainsString('Nothing is lost', $this->server->getOutput());
        foreach (array_column($back['workers'], 'pid') as $pid) {
            self::assertFalse(posix_kill($pid, 0), 'no worker is left behind');
        }
        self::assertFalse(@fsockopen('127.0.0.1', $this->port), 'nothing listens any more');
    }

    public function testAKilledSupervisorTakesItsProgramsAlongAndTheNextOneStarts(): void
    {
        $pids = array_column($this->until(static fn (array $h): bool => true === ($h['well'] ?? false))['workers'], 'pid');
        $this->server->signal(\SIGKILL);
        $this->server = $this->start();
        $back = $this->until(static fn (array $h): bool => 3 === \count(array_diff(array_column($h['workers'] ?? [], 'pid'), $pids)));
        foreach ($pids as $pid) {
            // One that has ended may still be listed until somebody takes note of it; it has no command any more.
            self::assertSame('', (string) @file_get_contents("/proc/$pid/cmdline"), 'no worker of the former one is left');
        }
        // A web process that is killed is started again.
        exec('pgrep -f '.escapeshellarg('[1]27.0.0.1:'.$this->port), $web);
        self::assertCount(5, $web, 'one that listens, and four');
        posix_kill((int) end($web), \SIGKILL);
        for ($i = 0, $now = []; $i < 100 && (5 !== \count($now) || $now === $web); ++$i) {
            usleep(100000);
            $now = [];
            exec('pgrep -f '.escapeshellarg('[1]27.0.0.1:'.$this->port), $now);
        }
        self::assertCount(5, $now);
        self::assertNotSame($web, $now);
        $this->until(static fn (array $h): bool => true === ($h['well'] ?? false));
    }

    public function testAFileThatExhaustsAWorkersMemoryFailsWithASentenceAndTheOthersGoOn(): void
    {
        $this->api('POST', '/api/sign-in', ['login' => 'mara', 'password' => 'ember-walk']);
        $bytes = "id,note\n1,".str_repeat('wordy ', 5 << 20)."\n2,short\n";
        $upload = $this->api('POST', '/api/uploads', ['fileName' => 'wordy.csv', 'size' => \strlen($bytes)])['id'];
        foreach (str_split($bytes, 8 << 20) as $i => $piece) {
            $this->api('PUT', \sprintf('/api/uploads/%d/pieces?offset=%d', $upload, $i * (8 << 20)), $piece);
        }
        $study = $this->api('POST', '/api/studies', ['name' => 'Wordy', 'question' => 'Is it too much?'])['id'];
        $job = $this->api('POST', "/api/studies/$study/tables", ['uploadId' => $upload, 'name' => 'wordy'])['id'];
        for ($i = 0, $state = $message = ''; $i < 300 && !\in_array($state, ['failed', 'done'], true); ++$i) {
            usleep(100000);
            ['state' => $state, 'message' => $message] = $this->api('GET', "/api/jobs/$job");
        }
        self::assertSame('failed', $state);
        self::assertStringContainsString('ended its worker twice, most likely for want of memory', $message);
        // The work is called failed first, then what it had begun is cleared away.
        for ($i = 0, $tables = null; $i < 100 && [] !== $tables; ++$i) {
            $tables = $this->api('GET', "/api/studies/$study/tables");
            usleep(50000);
        }
        self::assertSame([], $tables, 'nothing half imported is shown');
        self::assertStringContainsString(
            'Allowed memory size',
            (string) file_get_contents($this->data.'/log/processes.out'),
            'it was memory indeed',
        );
        $this->until(static fn (array $h): bool => 3 === \count($h['workers'] ?? []));
        $small = "id,note\n1,short\n";
        $upload = $this->api('POST', '/api/uploads', ['fileName' => 'small.csv', 'size' => \strlen($small)])['id'];
        $this->api('PUT', "/api/uploads/$upload/pieces?offset=0", $small);
        $job = $this->api('POST', "/api/studies/$study/tables", ['uploadId' => $upload, 'name' => 'small'])['id'];
        for ($i = 0, $state = ''; $i < 300 && 'done' !== $state; ++$i) {
            usleep(100000);
            $state = $this->api('GET', "/api/jobs/$job")['state'];
        }
        self::assertSame('done', $state);
    }

    /**
     * @param non-empty-string                 $method
     * @param array<string, mixed>|string|null $body
     *
     * @return array<mixed>
     */
    private function api(string $method, string $path, array|string|null $body = null): array
    {
        $curl = curl_init('http://127.0.0.1:'.$this->port.$path);
        self::assertNotFalse($curl);
        curl_setopt_array(
            $curl,
            [
                \CURLOPT_CUSTOMREQUEST => $method,
                \CURLOPT_RETURNTRANSFER => true,
                \CURLOPT_COOKIEFILE => $this->data.'/cookies',
                \CURLOPT_COOKIEJAR => $this->data.'/cookies',
            ],
        );
        if (\is_array($body)) {
            curl_setopt_array(
                $curl,
                [
                    \CURLOPT_HTTPHEADER => ['Content-Type: application/json'],
                    \CURLOPT_POSTFIELDS => json_encode($body, \JSON_THROW_ON_ERROR),
                ],
            );
        } elseif (null !== $body) {
            curl_setopt_array(
                $curl,
                [
                    \CURLOPT_HTTPHEADER => ['Content-Type: application/octet-stream', 'Piece-Checksum: '.hash('sha256', $body)],
                    \CURLOPT_POSTFIELDS => $body,
                ],
            );
        }
        $answer = (string) curl_exec($curl);
        $status = curl_getinfo($curl, \CURLINFO_RESPONSE_CODE);
        curl_close($curl);
        self::assertLessThan(400, $status, $method.' '.$path.': '.substr($answer, 0, 400));

        return json_decode($answer, true) ?? [];
    }

    public function testATakenPortGetsASentence(): void
    {
        $second = $this->start();
        self::assertSame(1, $second->wait());
        self::assertStringContainsString('Port '.$this->port.' is taken by another program. Choose another one', $second->getOutput());
        $this->server->signal(\SIGTERM);
        $this->server->wait();
    }
}
