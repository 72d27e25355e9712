<?php

declare(strict_types=1);

/**
 * make two-machines: web server and workers twice, in separate folders without a shared path, on one PostgreSQL. A guided search and a
 * batch
 * run on both while one side is killed at a random moment; what comes out is held against the same done by one alone, byte by byte.
 * two-machines.php [records of the batch, 1000000] [rounds, 2]
 */
require __DIR__.'/../vendor/autoload.php';

use Dokimos\Core\Tests\PostgresCluster;
use Symfony\Component\Process\Process;

$root = dirname(__DIR__);
$records = (int) ($argv[1] ?? 1_000_000);
$rounds = (int) ($argv[2] ?? 2);
$base = sys_get_temp_dir().'/dokimos-two-'.getmypid();
mkdir($base);
$say = static fn (string $what, string $measured) => printf("%-78s %s\n", $what, $measured);

final class Side
{
    public int $port;
    private ?Process $server = null;
    private string $cookies;

    public function __construct(public readonly string $folder, private readonly string $url, string $secret)
    {
        $socket = stream_socket_server('tcp://127.0.0.1:0') ?: throw new RuntimeException('There is no free port.');
        $this->port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
        mkdir($folder.'/data', 0770, true);
        file_put_contents($folder.'/data/app.secret', $secret);
        $this->cookies = $folder.'/cookies';
    }

    /** @param list<string> $command */
    public function console(array $command): string
    {
        $process = new Process([\PHP_BINARY, 'bin/console', ...$command], $this->folder.'/code', $this->environment(), null, 1800);

        return $process->mustRun()->getOutput();
    }

    /** @return array<string, string> */
    private function environment(): array
    {
        return ['APP_ENV' => 'prod', 'DOKIMOS_DATA' => $this->folder.'/data', 'DOKIMOS_DEMO' => '1', 'DATABASE_URL' => $this->url];
    }

    public function start(): void
    {
        $this->server = new Process(
            [\PHP_BINARY, 'bin/console', 'dokimos:serve', '--port='.$this->port],
            $this->folder.'/code',
            $this->environment(),
            null,
            null,
        );
        $this->server->start();
        for ($until = microtime(true) + 60; microtime(true) < $until; usleep(200000)) {
            if ([] !== ($this->health()['workers'] ?? [])) {
                return;
            }
        }
        throw new RuntimeException('It did not start: '.$this->server->getOutput().$this->server->getErrorOutput());
    }

    /** @return array<string, mixed> */
    public function health(): array
    {
        $context = stream_context_create(['http' => ['ignore_errors' => true, 'timeout' => 10]]);

        return json_decode((string) @file_get_contents("http://127.0.0.1:$this->port/api/health", false, $context), true) ?: [];
    }

    /** All of it at once, as when the power of a machine goes. */
    public function kill(): void
    {
        $pid = (int) $this->server?->getPid();
        foreach (array_filter(
            explode(
                "\n",
                (string) shell_exec('ps -eo pid,args | grep '.escapeshellarg($this->folder).' | grep -v grep | awk \'{print $1}\''),
            ),
        ) as $own) {
            posix_kill((int) $own, \SIGKILL);
        }
        posix_kill($pid, \SIGKILL);
        // Workers are named by their command, not by their folder: those whose working folder is this one.
        foreach (glob('/proc/[0-9]*/cwd') ?: [] as $cwd) {
            if (str_starts_with((string) @readlink($cwd), $this->folder)) {
                posix_kill((int) explode('/', $cwd)[2], \SIGKILL);
            }
        }
        $this->server = null;
    }

    /**
     * @param array<string, mixed>|string|null $body
     *
     * @return array{int, mixed, string}
     */
    public function ask(string $method, string $path, array|string|null $body = null): array
    {
        $curl = curl_init("http://127.0.0.1:$this->port$path") ?: throw new RuntimeException('No request.');
        $headers = [is_array($body) ? 'Content-Type: application/json' : 'Content-Type: application/octet-stream'];
        if (is_string($body)) {
            $headers[] = 'Piece-Checksum: '.hash('sha256', $body);
        }
        curl_setopt_array(
            $curl,
            [
                \CURLOPT_CUSTOMREQUEST => $method,
                \CURLOPT_RETURNTRANSFER => true,
                \CURLOPT_COOKIEFILE => $this->cookies,
                \CURLOPT_COOKIEJAR => $this->cookies,
                \CURLOPT_HTTPHEADER => $headers,
                \CURLOPT_TIMEOUT => 300,
            ],
        );
        if (null !== $body) {
            curl_setopt($curl, \CURLOPT_POSTFIELDS, is_array($body) ? json_encode((object) $body, \JSON_THROW_ON_ERROR) : $body);
        }
        $text = (string) curl_exec($curl);
        $status = (int) curl_getinfo($curl, \CURLINFO_RESPONSE_CODE);

        return [$status, json_decode($text, true), $text];
    }

    public function signIn(): void
    {
        200 === $this->ask(
            'POST',
            '/api/sign-in',
            ['login' => 'mara', 'password' => 'ember-walk'],
        )[0] || throw new RuntimeException('Nobody can sign in.');
    }
}

/**
 * What a search and a batch came to, without what names this run.
 *
 * @return array{search: string, batch: string}
 */
$found = static function (Side $side, int $search, int $batch) use ($base): array {
    $view = $side->ask('GET', "/api/guided/$search")[1];
    $tries = array_map(static fn (array $t): array => array_diff_key($t, ['seconds' => 0, 'id' => 0]), $view['tries'] ?? []);
    [$status, , $file] = $side->ask('GET', "/api/scorings/$batch/file");
    $told = json_encode([$view['state'] ?? null, $view['failure'] ?? null, $tries], \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT);
    // What differs can be looked at.
    file_put_contents("$base-search-$search.json", $told);
    file_put_contents("$base-batch-$batch.csv", $file);

    return ['search' => hash('sha256', $told), 'batch' => $status.' '.strlen($file).' '.hash('sha256', $file)];
};
$until = static function (Side $side, array $jobs, float $seconds): float {
    for ($begun = microtime(true); microtime(true) - $begun < $seconds; usleep(300000)) {
        $states = array_map(static fn (int $id): string => (string) ($side->ask('GET', "/api/jobs/$id")[1]['state'] ?? ''), $jobs);
        if ([] === array_intersect($states, ['waiting', 'running', ''])) {
            return microtime(true) - $begun;
        }
    }
    throw new RuntimeException('It came to no end.');
};
$run = static function (array $sides, int $table, int $trial, ?Closure $meanwhile) use ($until, $found): array {
    $side = $sides[0];
    $variant = $side->ask('GET', '/api/studies/1/preparation')[1]['variants'][0]['id'];
    $guided = $side->ask(
        'POST',
        '/api/studies/1/guided',
        ['variantId' => $variant, 'tries' => 14, 'reading' => 30, 'without' => ['neural-network', 'additive', 'neighbors', 'forest']],
    )[1];
    $batch = $side->ask(
        'POST',
        '/api/studies/1/scorings',
        ['trialId' => $trial, 'tableId' => $table, 'cutoff' => 0.2, 'match' => new stdClass()],
    )[1];
    if (!isset($guided['id'], $batch['id'])) {
        throw new RuntimeException(json_encode([$guided, $batch], \JSON_THROW_ON_ERROR));
    }
    $side = null === $meanwhile ? $side : $meanwhile();
    $took = $until($side, [$guided['id'], $batch['id']], 1800);
    // A guided search goes on in jobs of its own, rung by rung.
    $state = static fn (): string => $side->ask('GET', '/api/guided/'.$guided['subject'])[1]['state'] ?? 'running';
    for ($begun = microtime(true); 'running' === $state(); usleep(500000)) {
        microtime(true) - $begun < 1800 || throw new RuntimeException('The search came to no end.');
    }
    $took += microtime(true) - $begun;

    return [$found($side, $guided['subject'], $batch['subject']), $took];
};
$sides = [];
$good = true;
try {
    $url = PostgresCluster::store();
    $secret = bin2hex(random_bytes(32));
    foreach (['one', 'two'] as $name) {
        mkdir("$base/$name");
        (new Process(
            [
                'sh',
                '-c',
                'mkdir '.escapeshellarg("$base/$name/code").' && tar -C '.escapeshellarg($root).' --exclude=./var --exclude=./web/node_modules --exclude=./.git -cf - . | tar -C '.escapeshellarg("$base/$name/code").' -xf -',
            ],
            null,
            null,
            null,
            600,
        ))->mustRun();
        mkdir("$base/$name/code/var");
        $sides[] = new Side("$base/$name", $url, $secret);
    }
    [$one, $two] = $sides;
    $one->console(['dokimos:migrate']);
    $one->console(['dokimos:demo:load', '--rows=3000']);
    $one->start();
    $one->signIn();
    // The records of the batch: bookings of the demo, drawn by its own seed.
    $one->console(['dokimos:demo:generate', '--dir='.$base.'/made', '--rows='.$records, '--only=visits']);
    $file = (glob($base.'/made/visits*.csv') ?: [])[0];
    $upload = $one->ask('POST', '/api/uploads', ['fileName' => 'many.csv', 'size' => filesize($file)])[1]['id'];
    $handle = fopen($file, 'r');
    // Pieces go to both web servers in turn: an upload belongs to none of them.
    $two->start();
    $two->signIn();
    for ($at = 0, $k = 0; false !== $handle && '' !== $piece = (string) stream_get_contents($handle, 8 << 20); $at += strlen($piece), ++$k) {
        [$status, , $text] = $sides[$k % 2]->ask('PUT', "/api/uploads/$upload/pieces?offset=$at", $piece);
        200 === $status || throw new RuntimeException($text);
    }
    $import = $two->ask('POST', '/api/studies/1/tables', ['uploadId' => $upload, 'name' => 'many'])[1];
    $say(
        sprintf('%s records sent to both in turn and imported', number_format($records)),
        sprintf('%.0f s', $until($one, [$import['id']], 1200)),
    );
    $variant = $one->ask('GET', '/api/studies/1/preparation')[1]['variants'][0]['id'];
    $trial = $one->ask(
        'POST',
        '/api/studies/1/trials',
        ['variantId' => $variant, 'learner' => 'boosting', 'settings' => ['trees' => 100]],
    )[1];
    $until($two, [$trial['id']], 600);
    $say(
        'workers seen by either side',
        implode(', ', array_map(static fn (Side $s): string => (string) count($s->health()['workers'] ?? []), $sides)),
    );
    // What a worker of either side computes ahead is there for whoever asks the other one.
    $ahead = [
        'findings', 'goes-with?column=travel_km',
        'pictures/missing', 'pictures/apart', 'pictures/lopsided', 'pictures/repeats', 'pictures/together',
    ];
    $seen = 0;
    foreach ($ahead as $k => $what) {
        $path = '/api/tables/'.$import['subject'].'/'.$what;
        for ($begun = microtime(true); 202 === $sides[$k % 2]->ask('GET', $path)[0]; usleep(300000)) {
            microtime(true) - $begun < 300 || throw new RuntimeException("$what came to no end.");
        }
        $seen += 200 === $sides[1 - $k % 2]->ask('GET', $path)[0] ? 1 : 0;
    }
    $good = $seen === count($ahead);
    $say('findings and pictures asked of one side, seen by the other', sprintf('%d of %d', $seen, count($ahead)));
    $two->kill();
    [$alone, $took] = $run([$one], $import['subject'], $trial['subject'], null);
    $say('a guided search and a batch, by one alone', sprintf('%.0f s', $took));
    mt_srand((int) ($_SERVER['SEED'] ?? getmypid()));
    for ($round = 0; $round < $rounds; ++$round) {
        $two->start();
        $two->signIn();
        $dies = mt_rand(0, 1);
        $after = mt_rand(500, 12000) / 1000;
        [$both, $took] = $run([$sides[1 - $dies]], $import['subject'], $trial['subject'], static function () use ($sides, $dies, $after): Side {
            usleep((int) (1e6 * $after));
            $sides[$dies]->kill();

            return $sides[1 - $dies];
        });
        $parts = array_keys(array_diff_assoc($both, $alone));
        $same = [] === $parts;
        $good = $good && $same;
        $say(
            sprintf('both; side %d killed after %.1f s, the other goes on', $dies + 1, $after),
            sprintf('%.0f s, %s', $took, $same ? 'the same bytes as alone' : 'NOT THE SAME: '.implode(', ', $parts)),
        );
        0 === $dies ? $one->start() : $two->kill();
        $one->signIn();
    }
} finally {
    foreach ($sides as $side) {
        $side->kill();
    }
    (new Process(['rm', '-rf', $base]))->run();
}
exit($good ? 0 : 1);
