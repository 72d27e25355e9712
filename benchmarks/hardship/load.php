<?php

declare(strict_types=1);

use Dokimos\Benchmarks\Installation;

/**
 * 50 analysts who read: each asks one of the routes that pages ask, waits half a second to two seconds, and asks the next; meanwhile
 * trials are fitted, and there are 43 studies with 560 tables. TRIALS at a time (5), SECONDS long (60), on STORE=postgres or SQLite.
 * In a longer run memory and open files are noted each minute: from the second quarter to the last they stay what they are.
 *
 * @var string                                $root
 * @var Closure(string, string, ?bool=): void $line
 */
const ANALYSTS = 50;
$seconds = (float) ($_SERVER['SECONDS'] ?? 60);
$trials = (int) ($_SERVER['TRIALS'] ?? 5);
/** Megabytes in memory, and open files, of all processes of the installation. */
$held = static function (string $data): array {
    $megabytes = $files = 0.0;
    foreach (glob('/proc/[0-9]*', \GLOB_ONLYDIR) ?: [] as $process) {
        if (str_contains((string) @file_get_contents("$process/environ"), "DOKIMOS_DATA=$data\0")) {
            $rollup = (string) @file_get_contents("$process/smaps_rollup");
            $megabytes += 1 === preg_match('/Pss:\s+(\d+)/', $rollup, $m) ? (float) $m[1] / 1024 : 0.0;
            $files += count(glob("$process/fd/*") ?: []);
        }
    }

    return [$megabytes, $files];
};
$i = new Installation(sys_get_temp_dir().'/dokimos-load-'.getmypid(), $root, 6000);
try {
    $i->start();
    $i->signIn();
    $csv = "id,km,tenure\n".implode('', array_map(static fn (int $n): string => "r$n,".($n % 97).','.['own', 'rent'][$n % 2]."\n", range(1, 200)));
    $studies = [1];
    while (count($studies) < 41) {
        $studies[] = $i->ask('POST', '/api/studies', ['name' => 'Study '.count($studies), 'question' => 'Does it hold?'])[1]['id'];
    }
    $last = 0;
    for ($n = 0; $n < 550; ++$n) {
        $last = $i->ask('POST', '/api/studies/'.$studies[1 + $n % 40].'/tables', ['uploadId' => $i->upload($csv, "t$n.csv"), 'name' => 'table '.intdiv($n, 40)])[1]['id'];
    }
    $i->until(static fn (): bool => 'done' === $i->ask('GET', "/api/jobs/$last")[1]['state'], 300);
    $variant = $i->ask('GET', '/api/studies/1/preparation')[1]['variants'][0]['id'];
    $trial = $i->ask('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => 'logistic'])[1];
    $i->until(static fn (): bool => 'done' === $i->ask('GET', '/api/jobs/'.$trial['id'])[1]['state'], 120);
    $begun = microtime(true);
    $i->ask('GET', '/api/studies');
    $home = 1000 * (microtime(true) - $begun);
    $pages = [
        ['/api/studies', '/api/notices', '/api/jobs'], ['/api/studies/1', '/api/tables/1', '/api/tables/1/findings'], ['/api/studies/1', '/api/tables/1/rows?limit=100'], ['/api/studies/1/preparation', '/api/steps'],
        ['/api/studies/1/trials', '/api/learners'], ['/api/studies/1/trials', '/api/trials/'.$trial['subject'].'/judgment', '/api/trials/'.$trial['subject'].'/groups'], ['/api/trials/'.$trial['subject'].'/reasons/7'], ['/api/tables/1/pictures/lopsided'], ['/api/studies/1/logbook'],
    ];
    $routes = array_merge(...$pages);
    // Each page once: what is counted is how it is with people at work, not the first look at a table.
    foreach ($routes as $path) {
        $i->ask('GET', $path);
    }
    $running = static fn (): int => count(array_filter(
        $i->ask('GET', '/api/jobs')[1] ?? [],
        static fn (array $j): bool => in_array($j['state'], ['waiting', 'running'], true),
    ));
    $more = static function () use ($i, $variant, $trials, $running): void {
        for ($n = $running(); $n < $trials; ++$n) {
            $asked = ['variantId' => $variant, 'learner' => 'boosting', 'settings' => ['trees' => 3000, 'patience' => 0]];
            $i->ask('POST', '/api/studies/1/trials', $asked);
        }
    };
    $more();
    mt_srand(3);
    $all = curl_multi_init();
    $people = $open = $took = $by = $states = [];
    foreach (range(1, ANALYSTS) as $n) {
        $people[$n] = ['next' => microtime(true) + mt_rand(0, 2000) / 1000, 'waits' => 0];
        $i->ask('POST', '/api/sign-in', ['login' => 'mara', 'password' => 'ember-walk'], "analyst$n");
    }
    $taken = static fn (): array => array_map(
        floatval(...),
        array_slice(preg_split('/\s+/', (string) strtok((string) @file_get_contents('/proc/stat'), "\n")) ?: [], 1, 8),
    );
    $ticks = $taken();
    $until = microtime(true) + $seconds;
    $minutes = [];
    $noted = microtime(true) + 60;
    while (microtime(true) < $until) {
        if (microtime(true) > $noted) {
            $minutes[] = $held($i->data);
            $noted += 60;
            $more();
        }
        foreach ($people as $n => &$one) {
            if (0 === $one['waits'] && microtime(true) >= $one['next']) {
                $path = $routes[mt_rand(0, count($routes) - 1)];
                $request = $i->request('GET', $path, null, "analyst$n");
                curl_multi_add_handle($all, $request);
                $open[spl_object_id($request)] = [$n, $request, $path];
                ++$one['waits'];
            }
        }
        unset($one);
        curl_multi_exec($all, $active);
        curl_multi_select($all, 0.01);
        while (false !== $done = curl_multi_info_read($all)) {
            /** @var CurlHandle $request */
            $request = $done['handle'];
            [$n, , $path] = $open[spl_object_id($request)];
            $took[] = $by[$path][] = 1000 * curl_getinfo($request, \CURLINFO_TOTAL_TIME);
            $state = (int) curl_getinfo($request, \CURLINFO_RESPONSE_CODE);
            $states[$state] = ($states[$state] ?? 0) + 1;
            curl_multi_remove_handle($all, $request);
            unset($open[spl_object_id($request)]);
            if (0 === --$people[$n]['waits']) {
                $people[$n]['next'] = microtime(true) + mt_rand(500, 2000) / 1000;
            }
        }
    }
    sort($took);
    $at = static fn (float $share): float => $took[(int) ($share * (count($took) - 1))];
    $store = 'postgres' === ($_SERVER['STORE'] ?? '') ? 'PostgreSQL' : 'SQLite';
    $line("$store: the home page of 43 studies with 560 tables, idle: milliseconds", sprintf('%.0f', $home), $home < 500);
    $line(
        sprintf(
            '50 analysts, %d trials (%d at the end), %.0f s, %.0f requests a second: states',
            $trials,
            $running(),
            $seconds,
            count($took) / $seconds,
        ),
        (string) json_encode($states),
        [] === array_diff(array_keys($states), [200, 202]),
    );
    $line('median / 95th percentile, milliseconds', sprintf('%.0f / %.0f', $at(0.5), $at(0.95)), $at(0.95) < 500);
    $by = array_map(static fn (array $of): float => array_sum($of) / count($of), $by);
    arsort($by);
    $ticks = array_map(static fn (float $after, float $before): float => $after - $before, $taken(), $ticks);
    $line(
        'of the processors, taken away by other machines meanwhile',
        sprintf('%.0f %%', 100 * ($ticks[7] ?? 0) / max(1, array_sum($ticks))),
    );
    $line('the slowest, on average: milliseconds', implode(', ', array_map(
        static fn (string $path, float $ms): string => sprintf('%s %.0f', $path, $ms),
        array_keys(array_slice($by, 0, 6)),
        array_slice($by, 0, 6),
    )));
    $quarter = intdiv(count($minutes), 4);
    if ($quarter > 1) {
        $mean = static fn (array $some, int $what): float => array_sum(array_column($some, $what)) / count($some);
        [$early, $late] = [array_slice($minutes, $quarter, $quarter), array_slice($minutes, -$quarter)];
        foreach (['megabytes', 'open files'] as $what => $name) {
            $line(
                "$name of all processes, second quarter / last / most",
                sprintf('%.0f / %.0f / %.0f', $mean($early, $what), $mean($late, $what), max(array_column($minutes, $what))),
                $mean($late, $what) < 1.1 * $mean($early, $what),
            );
        }
    }
} finally {
    $i->end();
}
