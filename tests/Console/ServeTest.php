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
        Fixture::ensure();
        $this->data = sys_get_temp_dir().'/dokimos-serve-'.bin2hex(random_bytes(4));
        Fixture::run(['cp', '-r', $_SERVER['DOKIMOS_DATA'], $this->data]);
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
            $this->server->signal(\SIGKILL);
        }
        Fixture::run(['rm', '-rf', $this->data]);
    }

    private function start(): Process
    {
        $process = new Process([\PHP_BINARY, 'bin/console', 'dokimos:serve', '--port='.$this->port], \dirname(__DIR__, 2), ['APP_ENV' => 'prod', 'DOKIMOS_DATA' => $this->data, 'APP_SECRET' => false], null, null);
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
            $health = json_decode((string) @file_get_contents('http://127.0.0.1:'.$this->port.'/api/health', false, stream_context_create(['http' => ['ignore_errors' => true]])), true) ?? [];
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
        unlink($this->data.'/workers/'.$pids[0].'.json');
        $back = $this->until(static fn (array $h): bool => 3 === \count($h['workers'] ?? []) && !\in_array($pids[0], array_column($h['workers'], 'pid'), true));
        $this->server->signal(\SIGTERM);
        $this->server->wait();
        self::assertStringContainsString('Nothing is lost', $this->server->getOutput());
        foreach (array_column($back['workers'], 'pid') as $pid) {
            self::assertFalse(posix_kill($pid, 0), 'no worker is left behind');
        }
        self::assertFalse(@fsockopen('127.0.0.1', $this->port), 'nothing listens any more');
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
