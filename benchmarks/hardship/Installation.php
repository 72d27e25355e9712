<?php

declare(strict_types=1);

namespace Dokimos\Benchmarks;

use Symfony\Component\Process\Process;

/** An installation of its own with the demo's data, started and asked as a browser asks. */
final class Installation
{
    public readonly int $port;
    private ?Process $server = null;
    /** @var array<string, string> cookie file of each person */
    private array $cookies = [];

    public function __construct(
        public readonly string $data,
        private readonly string $root,
        int $rows = 1500,
        private readonly string $php = \PHP_BINARY,
    ) {
        $socket = stream_socket_server('tcp://127.0.0.1:0') ?: throw new \RuntimeException('There is no free port.');
        $this->port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
        @mkdir($data, 0770, true);
        foreach ([['dokimos:migrate'], ['dokimos:demo:load', '--rows='.$rows]] as $command) {
            $this->console($command);
        }
    }

    /** @param list<string> $command */
    public function console(array $command, bool $must = true): Process
    {
        $process = new Process([\PHP_BINARY, 'bin/console', ...$command], $this->root, $this->environment(), null, 900);
        $process->run();

        return $must && !$process->isSuccessful() ? throw new \RuntimeException($process->getOutput().$process->getErrorOutput()) : $process;
    }

    /** @return array<string, string|false> */
    private function environment(): array
    {
        return ['APP_ENV' => 'prod', 'DOKIMOS_DATA' => $this->data, 'DOKIMOS_DEMO' => '1', 'APP_SECRET' => false];
    }

    public function start(): void
    {
        $this->server = new Process([$this->php, 'bin/console', 'dokimos:serve', '--port='.$this->port], $this->root, $this->environment(), null, null);
        $this->server->start();
        $this->until(fn (): bool => 3 === \count($this->health()['workers'] ?? []), 60);
    }

    public function isRunning(): bool
    {
        return true === $this->server?->isRunning();
    }

    public function signal(int $signal): void
    {
        $this->server?->signal($signal);
        $this->server?->wait();
    }

    /** @return array<string, mixed> */
    public function health(): array
    {
        return json_decode((string) @file_get_contents("http://127.0.0.1:$this->port/api/health", false, stream_context_create(['http' => ['ignore_errors' => true, 'timeout' => 10]])), true) ?: [];
    }

    /** @return list<int> process ids of workers */
    public function workers(): array
    {
        return array_map(intval(...), array_column($this->health()['workers'] ?? [], 'pid'));
    }

    /** @return list<int> process ids of those that answer pages */
    public function webServers(): array
    {
        $out = [];
        foreach (glob('/proc/[0-9]*/cmdline') ?: [] as $file) {
            $command = str_replace("\0", ' ', (string) @file_get_contents($file));
            if (str_contains($command, ' -S ') && str_contains($command, ':'.$this->port.' ')) {
                $out[] = (int) explode('/', $file)[2];
            }
        }

        return $out;
    }

    /** What a browser would send to be known. */
    public function cookie(string $who = 'mara'): string
    {
        $out = [];
        foreach (file($this->cookies[$who] ?? '', \FILE_IGNORE_NEW_LINES) ?: [] as $line) {
            $cells = explode("\t", $line);
            if (7 === \count($cells)) {
                $out[] = $cells[5].'='.$cells[6];
            }
        }

        return implode('; ', $out);
    }

    public function until(\Closure $holds, float $seconds): float
    {
        for ($begun = microtime(true); !$holds(); usleep(100000)) {
            if (microtime(true) - $begun > $seconds) {
                throw new \RuntimeException('It did not come to that: '.json_encode($this->health()).$this->server?->getOutput());
            }
        }

        return microtime(true) - $begun;
    }

    /**
     * @param array<string, mixed>|string|null $body
     * @param list<string>                     $headers
     */
    public function request(string $method, string $path, array|string|null $body = null, string $who = 'mara', array $headers = []): \CurlHandle
    {
        $cookies = $this->cookies[$who] ??= (string) tempnam(sys_get_temp_dir(), 'who');
        $curl = curl_init("http://127.0.0.1:$this->port$path") ?: throw new \RuntimeException('No request.');
        $headers[] = \is_array($body) ? 'Content-Type: application/json' : 'Content-Type: application/octet-stream';
        if (\is_string($body)) {
            $headers[] = 'Piece-Checksum: '.hash('sha256', $body);
            // Curl would wait a second to be told to go on; no browser does.
            $headers[] = 'Expect:';
        }
        curl_setopt_array($curl, [\CURLOPT_CUSTOMREQUEST => $method, \CURLOPT_RETURNTRANSFER => true, \CURLOPT_COOKIEFILE => $cookies, \CURLOPT_COOKIEJAR => $cookies, \CURLOPT_HTTPHEADER => $headers, \CURLOPT_TIMEOUT => 60]);
        if (null !== $body) {
            curl_setopt($curl, \CURLOPT_POSTFIELDS, \is_array($body) ? json_encode($body, \JSON_THROW_ON_ERROR) : $body);
        }

        return $curl;
    }

    /**
     * @param array<string, mixed>|string|null $body
     * @param list<string>                     $headers
     *
     * @return array{int, mixed, string} status, what was answered, and as text
     */
    public function ask(string $method, string $path, array|string|null $body = null, string $who = 'mara', array $headers = []): array
    {
        $curl = $this->request($method, $path, $body, $who, $headers);
        $text = (string) curl_exec($curl);
        $status = (int) curl_getinfo($curl, \CURLINFO_RESPONSE_CODE);
        curl_close($curl);

        return [$status, json_decode($text, true), $text];
    }

    /**
     * Several requests at once.
     *
     * @param list<\CurlHandle> $requests
     *
     * @return list<int> their states
     */
    public function together(array $requests): array
    {
        $all = curl_multi_init();
        array_map(static fn (\CurlHandle $r) => curl_multi_add_handle($all, $r), $requests);
        do {
            curl_multi_exec($all, $active);
            curl_multi_select($all, 0.05);
        } while ($active > 0);

        return array_map(static fn (\CurlHandle $r): int => (int) curl_getinfo($r, \CURLINFO_RESPONSE_CODE), $requests);
    }

    public function signIn(string $who = 'mara', string $password = 'ember-walk'): void
    {
        [$status] = $this->ask('POST', '/api/sign-in', ['login' => $who, 'password' => $password], $who);
        200 === $status || throw new \RuntimeException("$who cannot sign in.");
    }

    public function upload(string $csv, string $name): int
    {
        $id = $this->ask('POST', '/api/uploads', ['fileName' => $name, 'size' => \strlen($csv)])[1]['id'] ?? null;
        if (!\is_int($id)) {
            throw new \RuntimeException('Nobody took the file.');
        }
        $this->ask('PUT', "/api/uploads/$id/pieces?offset=0", $csv);

        return $id;
    }

    public function isSound(): bool
    {
        $database = new \SQLite3($this->data.'/dokimos.sqlite', \SQLITE3_OPEN_READONLY);
        $database->busyTimeout(20000);

        return 'ok' === $database->querySingle('PRAGMA integrity_check');
    }

    public function end(): void
    {
        $this->isRunning() && $this->signal(\SIGTERM);
        array_map(unlink(...), array_filter($this->cookies, is_file(...)));
        (new Process(['rm', '-rf', $this->data]))->run();
    }

    /**
     * What failed jobs say, each sentence once.
     *
     * @param list<int> $jobs
     */
    public function said(array $jobs): string
    {
        $views = array_map(fn (int $id): array => (array) $this->ask('GET', "/api/jobs/$id")[1], $jobs);
        $failed = array_filter($views, static fn (array $v): bool => 'failed' === ($v['state'] ?? null));

        return implode(' | ', array_unique(array_map(static fn (array $v): string => (string) ($v['message'] ?? 'NOTHING'), $failed)));
    }
}
