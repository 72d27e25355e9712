<?php

declare(strict_types=1);

use Dokimos\Benchmarks\Installation;
use Symfony\Component\Process\Process;

/**
 * 200 kills of web server, workers and supervisor while tables are imported, trials fitted, searches run, batches scored and files taken;
 * the
 * power cut by copying the files in the middle of writing; the clock moved; a sending cut off; an upgrade killed. After each: no finished
 * work
 * lost, no half table, the database sound, work goes on.
 *
 * @var string                                $root
 * @var Closure(string, string, ?bool=): void $line
 */
$kills = (int) ($_SERVER['KILLS'] ?? 200);
$i = new Installation(sys_get_temp_dir().'/dokimos-torture-'.getmypid(), $root);
mt_srand((int) ($_SERVER['SEED'] ?? 7));
try {
    $i->start();
    $i->signIn();
    $study = $i->ask('GET', '/api/studies/1')[1];
    $variant = $i->ask('GET', '/api/studies/1/preparation')[1]['variants'][0];
    $csv = "id,km,when\n".implode('', array_map(static fn (int $n): string => "r$n,".($n % 97).",2026-01-02\n", range(1, 60000)));
    $first = $i->ask('POST', '/api/studies/1/trials', ['variantId' => $variant['id'], 'learner' => 'tree'])[1];
    $i->until(static fn (): bool => 'done' === ($i->ask('GET', '/api/jobs/'.$first['id'])[1]['state'] ?? ''), 120);
    $begin = static function (int $n) use ($i, $variant, $csv, $first, $study): ?int {
        [, $job] = match ($n % 5) {
            0 => $i->ask('POST', '/api/studies/1/tables', ['uploadId' => $i->upload($csv, "t$n.csv"), 'name' => "t$n"]),
            1 => $i->ask(
                'POST',
                '/api/studies/1/trials',
                [
                    'variantId' => $variant['id'],
                    'learner' => ['logistic', 'tree', 'boosting'][$n % 3],
                    'settings' => 2 === $n % 3 ? ['trees' => 60] : [],
                ],
            ),
            2 => $i->ask(
                'POST',
                '/api/studies/1/searches',
                ['variantIds' => [$variant['id']], 'spaces' => [['learner' => 'tree', 'settings' => ['depth' => ['list' => [2, 3, 4]]]]]],
            ),
            3 => $i->ask(
                'POST',
                '/api/studies/1/scorings',
                ['trialId' => $first['subject'], 'tableId' => $study['tableId'], 'cutoff' => 0.2, 'match' => new stdClass()],
            ),
            default => $i->ask(
                'POST',
                '/api/studies/1/trials',
                ['variantId' => $variant['id'], 'learner' => 'forest', 'settings' => ['trees' => 30]],
            ),
        };

        return is_array($job) && isset($job['id']) && is_int($job['id']) ? $job['id'] : null;
    };
    /** Asked until it answers: the web server may just have been killed. */
    $again = static function (Closure $ask) use ($i): mixed {
        for ($until = microtime(true) + 90; microtime(true) < $until; usleep(200000)) {
            try {
                $out = $ask();
            } catch (RuntimeException) {
                continue;
            }
            if (null !== $out && [] !== $out) {
                return $out;
            }
        }
        throw new RuntimeException('Nothing answered: '.json_encode($i->health()));
    };
    $jobs = $done = $lost = $odd = [];
    $half = $unsound = $copies = $badCopies = 0;
    $hit = ['a worker' => 0, 'the web server' => 0, 'the supervisor' => 0];
    for ($n = 0; $n < $kills; ++$n) {
        $open = array_filter($jobs, static fn (int $id): bool => !isset($done[$id]));
        if (count($open) < 4) {
            $id = $again(static fn (): ?int => $begin($n));
            $jobs[] = $id;
        }
        usleep(mt_rand(50, 900) * 1000);
        $draw = mt_rand(0, 99);
        if ($draw < 60) {
            $workers = $i->workers();
            [] === $workers || posix_kill($workers[array_rand($workers)], \SIGKILL);
            ++$hit['a worker'];
        } elseif ($draw < 85) {
            foreach ($i->webServers() as $pid) {
                posix_kill($pid, \SIGKILL);
                break;
            }
            ++$hit['the web server'];
        } else {
            $i->signal(\SIGKILL);
            ++$hit['the supervisor'];
            $i->start();
        }
        // A download in the middle of it: whole or not at all.
        [$status, , $text] = $i->ask('GET', '/api/studies/1/saved');
        if (200 === $status && null === json_decode($text, true)) {
            $odd[] = 'a study of '.strlen($text).' bytes';
        }
        foreach ($again(static fn (): ?array => $i->ask('GET', '/api/studies/1/tables')[1]) as $table) {
            $half += 1 === preg_match('/^t\d+$/', $table['name']) && 'ready' === $table['state'] && 60000 !== $table['rows'] ? 1 : 0;
        }
        foreach ($jobs as $id) {
            $state = $i->ask('GET', "/api/jobs/$id")[1]['state'] ?? null;
            if (isset($done[$id]) && null !== $state && $state !== $done[$id]) {
                $lost[] = "job $id: $done[$id], then $state";
            }
            if (in_array($state, ['done', 'failed', 'cancelled'], true)) {
                $done[$id] = $state;
            }
        }
        if (0 === $n % 10) {
            // The power goes: what lies on the disk at this moment is all there is.
            $copy = sys_get_temp_dir().'/dokimos-power-'.getmypid();
            (new Process(['rm', '-rf', $copy]))->run();
            mkdir($copy);
            foreach (['dokimos.sqlite', 'dokimos.sqlite-wal'] as $name) {
                @copy($i->data.'/'.$name, $copy.'/'.$name);
            }
            try {
                $database = new SQLite3($copy.'/dokimos.sqlite');
                $sound = 'ok' === $database->querySingle('PRAGMA integrity_check');
                $trials = (int) $database->querySingle("SELECT COUNT(*) FROM trial WHERE state = 'done'");
                $database->close();
            } catch (Throwable) {
                [$sound, $trials] = [false, 0];
            }
            ++$copies;
            $badCopies += $sound && $trials > 0 ? 0 : 1;
            (new Process(['rm', '-rf', $copy]))->run();
            $unsound += $i->isSound() ? 0 : 1;
        }
    }
    $states = static fn (): array => array_map(
        static fn (int $id): string => (string) ($i->ask('GET', "/api/jobs/$id")[1]['state'] ?? ''),
        $jobs,
    );
    $took = $i->until(static fn (): bool => [] === array_intersect($states(), ['waiting', 'running', '']), 600);
    $ends = array_count_values($states());
    $line(
        sprintf(
            '%d kills: %s',
            $kills,
            implode(', ', array_map(static fn (string $k, int $v): string => "$v of $k", array_keys($hit), $hit)),
        ),
        sprintf('%d jobs', count($jobs)),
    );
    $line(
        'all work comes to an end after them: done, failed with a sentence; seconds',
        sprintf('%d, %d; %.0f', $ends['done'] ?? 0, $ends['failed'] ?? 0, $took),
        count($jobs) === ($ends['done'] ?? 0) + ($ends['failed'] ?? 0),
    );
    '' === ($says = $i->said($jobs)) || $line('what those that failed say', $says, !str_contains($says, 'NOTHING'));
    $line('finished work that was lost', [] === $lost ? '0' : implode('; ', array_slice($lost, 0, 3)), [] === $lost);
    $line('half tables seen; files that were cut', "$half; ".count($odd), 0 === $half && [] === $odd);
    $line('database not sound, of '.(int) ceil($kills / 10).' looks', (string) $unsound, 0 === $unsound);
    $line(
        "power cut: of $copies copies in the middle of writing not sound, or without finished work",
        (string) $badCopies,
        0 === $badCopies,
    );

    // The clock goes back an hour, then on by two, while work runs: a killed worker's work must not wait for it.
    foreach ([-3600, 7200] as $moved) {
        $job = $i->ask(
            'POST',
            '/api/studies/1/trials',
            ['variantId' => $variant['id'], 'learner' => 'boosting', 'settings' => ['trees' => 400, 'patience' => 0]],
        )[1]['id'];
        $i->until(static fn (): bool => 'running' === ($i->ask('GET', "/api/jobs/$job")[1]['state'] ?? ''), 60);
        $database = new SQLite3($i->data.'/dokimos.sqlite');
        $database->busyTimeout(20000);
        // To those who read a clock, the world is $moved seconds later than before: what was written before lies that far off.
        $database->exec(
            'UPDATE job_piece SET lease_until = lease_until - '.$moved.', waiting_since = waiting_since - '.$moved." WHERE state IN ('running', 'waiting')",
        );
        $database->close();
        foreach ($i->workers() as $pid) {
            posix_kill($pid, \SIGKILL);
        }
        $took = $i->until(
            static fn (): bool => in_array($i->ask('GET', "/api/jobs/$job")[1]['state'] ?? '', ['done', 'failed'], true),
            240,
        );
        $state = $i->ask('GET', "/api/jobs/$job")[1]['state'];
        $line(
            sprintf('the clock moved by %+d s, then every worker killed: the trial; seconds', $moved),
            sprintf('%s; %.0f', $state, $took),
            'done' === $state,
        );
    }

    // A sending that is cut off in the middle of a piece goes on where it stood.
    $id = $i->ask('POST', '/api/uploads', ['fileName' => 'cut.csv', 'size' => strlen($csv)])[1]['id'];
    $socket = fsockopen('127.0.0.1', $i->port);
    if (false !== $socket) {
        fwrite(
            $socket,
            "PUT /api/uploads/$id/pieces?offset=0 HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: ".strlen($csv)."\r\nContent-Type: application/octet-stream\r\nCookie: ".$i->cookie()."\r\nPiece-Checksum: ".hash('sha256', $csv)."\r\n\r\n".substr($csv, 0, 300000),
        );
        fclose($socket);
    }
    usleep(500000);
    $received = $i->ask('GET', "/api/uploads/$id")[1]['received'] ?? null;
    [$status] = $i->ask('PUT', "/api/uploads/$id/pieces?offset=0", $csv);
    $line('a sending cut off: bytes kept of the half piece; sent again', "$received; $status", 0 === $received && 200 === $status);

    // A trial that no worker has room for is refused before it begins, or fails with a sentence; the others go on.
    $wide = 'id,y'.implode('', array_map(static fn (int $k): string => ",c$k", range(1, 3000)))."\n".implode(
        '',
        array_map(static fn (int $n): string => "r$n,".($n % 2 ? 'yes' : 'no').str_repeat(','.($n % 9), 3000)."\n", range(1, 1500)),
    );
    $upload = $i->ask('POST', '/api/uploads', ['fileName' => 'wide.csv', 'size' => strlen($wide)])[1]['id'];
    foreach (str_split($wide, 8 << 20) as $k => $piece) {
        $i->ask('PUT', "/api/uploads/$upload/pieces?offset=".($k * (8 << 20)), $piece);
    }
    $job = $i->ask('POST', '/api/studies/1/tables', ['uploadId' => $upload, 'name' => 'wide'])[1]['id'];
    $i->until(static fn (): bool => in_array($i->ask('GET', "/api/jobs/$job")[1]['state'] ?? '', ['done', 'failed'], true), 300);
    $end = $i->ask('GET', "/api/jobs/$job")[1];
    $line(
        'a table of 3,000 columns with small workers: '.$end['state'],
        trim(substr((string) $end['message'], 0, 60)),
        'done' === $end['state'] || '' !== (string) $end['message'],
    );
} finally {
    $i->end();
}

// An upgrade killed at random moments: what was there before is there, and the next one goes through.
$data = sys_get_temp_dir().'/dokimos-upgrade-'.getmypid();
$rounds = 12;
$broken = $through = $killed = 0;
for ($n = 0; $n < $rounds; ++$n) {
    (new Process(['rm', '-rf', $data]))->run();
    mkdir($data);
    $environment = ['APP_ENV' => 'prod', 'DOKIMOS_DATA' => $data, 'APP_SECRET' => false, 'DATABASE_URL' => false];
    (new Process(
        [\PHP_BINARY, 'bin/console', 'doctrine:migrations:migrate', 'App\\Migrations\\Version20261129000010', '-n'],
        $root,
        $environment,
        null,
        300,
    ))->mustRun();
    $upgrade = new Process([\PHP_BINARY, 'bin/console', 'dokimos:migrate'], $root, $environment, null, 300);
    $upgrade->start();
    usleep(mt_rand(50, 700) * 1000);
    if ($upgrade->isRunning()) {
        $upgrade->signal(\SIGKILL);
        ++$killed;
    }
    try {
        $upgrade->wait();
    } catch (Throwable) {
    }
    $database = new SQLite3($data.'/dokimos.sqlite');
    $broken += 'ok' === $database->querySingle('PRAGMA integrity_check') ? 0 : 1;
    $database->close();
    $next = new Process([\PHP_BINARY, 'bin/console', 'dokimos:migrate'], $root, $environment, null, 300);
    $through += 0 === $next->run() ? 1 : 0;
}
(new Process(['rm', '-rf', $data]))->run();
$line(
    "$rounds upgrades, $killed of them killed in the middle: not sound; the next one goes through",
    "$broken; $through",
    0 === $broken && $rounds === $through,
);
