<?php

declare(strict_types=1);

use Dokimos\Benchmarks\Installation;
use Dokimos\Core\Tests\PostgresCluster;

/**
 * The store on a PostgreSQL server that is killed again and again while tables are imported, trials fitted, searches run and batches
 * scored; and the web server killed while a list is written to a database. After each: no finished work lost, no half table.
 *
 * @var string                                $root
 * @var Closure(string, string, ?bool=): void $line
 */
require_once $root.'/core/tests/PostgresCluster.php';
$crashes = (int) ($_SERVER['CRASHES'] ?? 12);
$before = [getenv('DATABASE_URL'), getenv('DOKIMOS_POSTGRES_HOSTS')];
putenv('DATABASE_URL='.($_SERVER['DATABASE_URL'] = $_ENV['DATABASE_URL'] = PostgresCluster::store()));
$_SERVER['DOKIMOS_POSTGRES_HOSTS'] = $_ENV['DOKIMOS_POSTGRES_HOSTS'] = '127.0.0.1:'.PostgresCluster::port().' disable';
putenv('DOKIMOS_POSTGRES_HOSTS='.$_SERVER['DOKIMOS_POSTGRES_HOSTS']);
$i = new Installation(sys_get_temp_dir().'/dokimos-server-'.getmypid(), $root, 6000);
mt_srand(11);
try {
    $i->start();
    $i->signIn();
    $state = static fn (int $job): string => (string) ($i->ask('GET', "/api/jobs/$job")[1]['state'] ?? '');
    $ended = static fn (int $job): bool => in_array($state($job), ['done', 'failed', 'cancelled'], true);
    /** Asked until it is taken: the database may be down. */
    $again = static function (string $method, string $path, ?array $body = null, array $good = [200, 201, 202]) use ($i): array {
        for ($until = microtime(true) + 60; microtime(true) < $until; usleep(200000)) {
            [$status, $answer] = $i->ask($method, $path, $body);
            if (in_array($status, $good, true) && is_array($answer)) {
                return $answer;
            }
        }
        throw new RuntimeException("$method $path was not answered: $status ".json_encode($answer));
    };
    $study = $again('GET', '/api/studies/1');
    $variant = $again('GET', '/api/studies/1/preparation')['variants'][0];
    $csv = "id,km,when\n".implode('', array_map(static fn (int $n): string => "r$n,".($n % 97).",2026-01-02\n", range(1, 60000)));
    $first = $again('POST', '/api/studies/1/trials', ['variantId' => $variant['id'], 'learner' => 'tree']);
    $i->until(static fn (): bool => $ended($first['id']), 120);
    $jobs = [];
    $begin = static function (int $n) use ($i, $again, $variant, $csv, $first, $study): int {
        if (0 === $n % 4) {
            // A sending that the crash cut off is sent again.
            for ($k = 0; $k < 60; ++$k) {
                try {
                    $id = $i->upload($csv, "t$n.csv");
                    [$status, $job] = $i->ask('POST', '/api/studies/1/tables', ['uploadId' => $id, 'name' => "t$n"]);
                    if (202 === $status) {
                        return $job['id'];
                    }
                } catch (Throwable) {
                }
                usleep(500000);
            }
        }

        $job = match ($n % 4) {
            1 => $again('POST', '/api/studies/1/trials', [
                'variantId' => $variant['id'],
                'learner' => 'boosting',
                'settings' => ['trees' => 150],
            ]),
            2 => $again('POST', '/api/studies/1/searches', [
                'variantIds' => [$variant['id']],
                'spaces' => [['learner' => 'tree', 'settings' => ['depth' => ['list' => [2, 3, 4]]]]],
            ]),
            default => $again('POST', '/api/studies/1/scorings', [
                'trialId' => $first['subject'], 'tableId' => $study['tableId'], 'cutoff' => 0.2, 'match' => new stdClass(),
            ]),
        };

        return $job['id'];
    };
    $done = $lost = [];
    $half = 0;
    $slowest = 0.0;
    for ($n = 0; $n < $crashes; ++$n) {
        while (count(array_filter($jobs, static fn (int $id): bool => !isset($done[$id]))) < 3) {
            $jobs[] = $begin(count($jobs));
        }
        usleep(mt_rand(100, 2500) * 1000);
        PostgresCluster::crash(mt_rand(0, 3000) / 1000);
        $back = microtime(true);
        foreach ($again('GET', '/api/studies/1/tables') as $table) {
            $half += 1 === preg_match('/^t\d+$/', $table['name']) && 'ready' === $table['state'] && 60000 !== $table['rows'] ? 1 : 0;
        }
        $slowest = max($slowest, microtime(true) - $back);
        foreach ($jobs as $id) {
            $now = $state($id);
            if (isset($done[$id]) && '' !== $now && $now !== $done[$id]) {
                $lost[] = "job $id: $done[$id], then $now";
            }
            if (in_array($now, ['done', 'failed', 'cancelled'], true)) {
                $done[$id] = $now;
            }
        }
    }
    $took = $i->until(static fn (): bool => [] === array_filter($jobs, static fn (int $id): bool => !$ended($id)), 600);
    $ends = array_count_values(array_map($state, $jobs));
    $line(
        "$crashes kills of the database server among ".count($jobs).' jobs: done, failed with a sentence; seconds to the end',
        sprintf('%d, %d; %.0f', $ends['done'] ?? 0, $ends['failed'] ?? 0, $took),
        count($jobs) === ($ends['done'] ?? 0) + ($ends['failed'] ?? 0),
    );
    '' === ($says = $i->said($jobs)) || $line('what those that failed say', $says, !str_contains($says, 'NOTHING'));
    $line(
        'finished work that was lost; half tables',
        ([] === $lost ? '0' : implode('; ', array_slice($lost, 0, 3)))."; $half",
        [] === $lost && 0 === $half,
    );
    $line('seconds until a page is answered once the server is back, at most', sprintf('%.1f', $slowest), $slowest < 5);

    // A list is written to a database while the one who writes it is killed.
    $batch = $again('POST', '/api/studies/1/scorings', [
        'trialId' => $first['subject'], 'tableId' => $study['tableId'], 'cutoff' => 0.2, 'match' => new stdClass(),
    ]);
    $i->until(static fn (): bool => $ended($batch['id']), 120);
    $list = $again('POST', '/api/scorings/'.$batch['subject'].'/decisions', ['name' => 'By May']);
    $connection = $again('POST', '/api/connections', [
        'host' => '127.0.0.1:'.PostgresCluster::port(),
        'database' => 'lists',
        'login' => PostgresCluster::WRITER,
        'password' => PostgresCluster::PASSWORD,
    ])['id'];
    $there = new PDO('pgsql:host=127.0.0.1;dbname=lists;port='.PostgresCluster::port(), PostgresCluster::WRITER, PostgresCluster::PASSWORD);
    $torn = $written = 0;
    for ($n = 0; $n < 6; ++$n) {
        $ask = $i->request('POST', '/api/decisions/'.$list['id'].'/export', [
            'connectionId' => $connection, 'table' => 'killed', 'mode' => 'replace', 'which' => 'all', 'columns' => [],
        ]);
        $all = curl_multi_init();
        curl_multi_add_handle($all, $ask);
        $until = microtime(true) + mt_rand(20, 900) / 1000;
        while (microtime(true) < $until) {
            curl_multi_exec($all, $active);
            usleep(2000);
        }
        foreach ($i->webServers() as $pid) {
            posix_kill($pid, \SIGKILL);
        }
        curl_multi_close($all);
        $i->until(static fn (): bool => 200 === $i->ask('GET', '/api/studies/1')[0], 60);
        $count = $there->query("SELECT to_regclass('killed') IS NOT NULL")->fetchColumn()
            ? (int) $there->query('SELECT COUNT(*) FROM killed')->fetchColumn() : 0;
        $torn += in_array($count, [0, $study['rows']], true) ? 0 : 1;
        $written += $study['rows'] === $count ? 1 : 0;
    }
    $again('POST', '/api/decisions/'.$list['id'].'/export', [
        'connectionId' => $connection, 'table' => 'killed', 'mode' => 'replace', 'which' => 'all', 'columns' => [],
    ]);
    $whole = (int) $there->query('SELECT COUNT(*) FROM killed')->fetchColumn();
    $line(
        "6 lists written to a database, the writer killed: torn; whole ($written while it went on), and the next one",
        "$torn; $whole of {$study['rows']}",
        0 === $torn && $whole === $study['rows'],
    );
} finally {
    $i->end();
    putenv(false === $before[0] ? 'DATABASE_URL' : 'DATABASE_URL='.$before[0]);
    putenv(false === $before[1] ? 'DOKIMOS_POSTGRES_HOSTS' : 'DOKIMOS_POSTGRES_HOSTS='.$before[1]);
    unset($_SERVER['DATABASE_URL'], $_ENV['DATABASE_URL'], $_SERVER['DOKIMOS_POSTGRES_HOSTS'], $_ENV['DOKIMOS_POSTGRES_HOSTS']);
}
