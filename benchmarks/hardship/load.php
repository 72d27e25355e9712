<?php

declare(strict_types=1);

use Dokimos\Benchmarks\Installation;

/**
 * 50 analysts who read: each asks one of the routes that pages ask, waits half a second to two seconds, and asks the next; meanwhile 17
 * trials are fitted, and there are 43 studies with 560 tables. 60 seconds.
 *
 * @var string                                $root
 * @var Closure(string, string, ?bool=): void $line
 */
const ANALYSTS = 50;
const SECONDS = 60.0;
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
    for ($n = 0; $n < 17; ++$n) {
        $i->ask('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => ['boosting', 'forest', 'logistic'][$n % 3], 'settings' => 0 === $n % 3 ? ['trees' => 3000, 'patience' => 0] : []]);
    }
    mt_srand(3);
    $all = curl_multi_init();
    $people = $open = $took = $states = [];
    foreach (range(1, ANALYSTS) as $n) {
        $people[$n] = ['next' => microtime(true) + mt_rand(0, 2000) / 1000, 'waits' => 0];
        $i->ask('POST', '/api/sign-in', ['login' => 'mara', 'password' => 'ember-walk'], "analyst$n");
    }
    $until = microtime(true) + SECONDS;
    while (microtime(true) < $until) {
        foreach ($people as $n => &$one) {
            if (0 === $one['waits'] && microtime(true) >= $one['next']) {
                $request = $i->request('GET', $routes[mt_rand(0, count($routes) - 1)], null, "analyst$n");
                curl_multi_add_handle($all, $request);
                $open[spl_object_id($request)] = [$n, $request];
                ++$one['waits'];
            }
        }
        unset($one);
        curl_multi_exec($all, $active);
        curl_multi_select($all, 0.01);
        while (false !== $done = curl_multi_info_read($all)) {
            /** @var CurlHandle $request */
            $request = $done['handle'];
            [$n] = $open[spl_object_id($request)];
            $took[] = 1000 * curl_getinfo($request, \CURLINFO_TOTAL_TIME);
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
    $running = count(array_filter($i->ask('GET', '/api/jobs')[1], static fn (array $j): bool => in_array($j['state'], ['waiting', 'running'], true)));
    $line('the home page of 43 studies with 560 tables, idle: milliseconds', sprintf('%.0f', $home), $home < 500);
    $line(sprintf('50 analysts, 17 trials (%d at the end), %.0f requests a second: states', $running, count($took) / SECONDS), (string) json_encode($states), [] === array_diff(array_keys($states), [200, 202]));
    $line('median / 95th percentile, milliseconds', sprintf('%.0f / %.0f', $at(0.5), $at(0.95)), $at(0.95) < 1500);
} finally {
    $i->end();
}
