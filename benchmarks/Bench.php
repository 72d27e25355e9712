<?php

declare(strict_types=1);

namespace App\Benchmarks;

use App\Operation\Compiled;
use Symfony\Component\Process\Process;

/** Runs an installation of its own and measures it. Times are wall clock unless a line says CPU. */
final class Bench
{
    /** @var list<array{string, string, string}> what, measured, wanted */
    public array $lines = [];
    private ?Process $server = null;
    public string $base = '';
    private string $cookies;

    public function __construct(private readonly string $root, public readonly string $data)
    {
        $this->cookies = $data.'/cookies';
    }

    public function line(string $what, string $measured, string $wanted): void
    {
        $this->lines[] = [$what, $measured, $wanted];
        printf("%-62s %-34s %s\n", $what, $measured, $wanted);
    }

    /** @param list<string> $arguments */
    public function php(array $arguments, int $timeout = 1200): string
    {
        $process = new Process([\PHP_BINARY, ...Compiled::options(), '-d', 'memory_limit=2G', ...$arguments], $this->root, ['APP_ENV' => 'prod', 'DOKIMOS_DATA' => $this->data, 'DOKIMOS_DEMO' => '1'], null, $timeout);

        return $process->mustRun()->getOutput();
    }

    public function serve(): void
    {
        $socket = stream_socket_server('tcp://127.0.0.1:0');
        \assert(false !== $socket);
        $port = substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
        $this->base = 'http://127.0.0.1:'.$port;
        $this->server = new Process([\PHP_BINARY, 'bin/console', 'dokimos:serve', '--port='.$port], $this->root, ['APP_ENV' => 'prod', 'DOKIMOS_DATA' => $this->data, 'DOKIMOS_DEMO' => '1'], null, null);
        $this->server->start();
        for ($i = 0; $i < 200 && false === @file_get_contents($this->base.'/api/setup'); ++$i) {
            usleep(50000);
        }
        $this->api('POST', '/api/sign-in', '{"login":"mara","password":"ember-walk"}');
    }

    public function stop(): void
    {
        if (true === $this->server?->isRunning()) {
            $this->server->signal(\SIGTERM);
            $this->server->wait();
        }
    }

    /**
     * @param list<string> $headers
     *
     * @return array{mixed, float} the answer and the seconds it took
     */
    public function api(string $method, string $path, ?string $body = null, array $headers = ['Content-Type: application/json']): array
    {
        $curl = curl_init($this->base.$path);
        \assert(false !== $curl);
        curl_setopt_array($curl, [\CURLOPT_CUSTOMREQUEST => $method, \CURLOPT_RETURNTRANSFER => true, \CURLOPT_COOKIEFILE => $this->cookies, \CURLOPT_COOKIEJAR => $this->cookies, \CURLOPT_HTTPHEADER => $headers, ...(null === $body ? [] : [])]);
        if (null !== $body) {
            curl_setopt($curl, \CURLOPT_POSTFIELDS, $body);
        }
        $start = hrtime(true);
        $answer = (string) curl_exec($curl);
        $seconds = (hrtime(true) - $start) / 1e9;
        curl_close($curl);

        return [json_decode($answer, true), $seconds];
    }

    public function upload(string $file): int
    {
        [$begun] = $this->api('POST', '/api/uploads', json_encode(['fileName' => basename($file), 'size' => filesize($file)], \JSON_THROW_ON_ERROR));
        $handle = fopen($file, 'r');
        \assert(false !== $handle);
        for ($offset = 0; !feof($handle) && '' !== $piece = (string) fread($handle, 8 << 20); $offset += \strlen($piece)) {
            $this->api('PUT', "/api/uploads/{$begun['id']}/pieces?offset=$offset", $piece, ['Content-Type: application/octet-stream', 'Piece-Checksum: '.hash('sha256', $piece)]);
        }
        fclose($handle);

        return $begun['id'];
    }

    /** @return array{float, string} seconds from start to end as the workers measured them, and the state */
    public function await(int $job): array
    {
        do {
            usleep(100000);
            [$view] = $this->api('GET', '/api/jobs/'.$job);
        } while (\in_array($view['state'], ['waiting', 'running'], true));

        return [$view['seconds'], $view['state'].' '.$view['message']];
    }

    /** The most memory any worker of this installation has held, in MB. */
    public function workerPeak(): int
    {
        $peak = 0;
        foreach (glob($this->data.'/workers/*.json') ?: [] as $file) {
            if (1 === preg_match('/VmHWM:\s+(\d+) kB/', (string) @file_get_contents('/proc/'.basename($file, '.json').'/status'), $m)) {
                $peak = max($peak, intdiv((int) $m[1], 1024));
            }
        }

        return $peak;
    }

    /** @param list<float> $values */
    public static function median(array $values): float
    {
        sort($values);

        return $values[intdiv(\count($values), 2)];
    }
}
