<?php

declare(strict_types=1);

use Dokimos\Benchmarks\Installation;

/** @var string $root @var Closure(string, string, ?bool=): void $line */
$i = new Installation(sys_get_temp_dir().'/dokimos-doors-'.getmypid(), $root);
try {
    $i->start();
    $i->signIn();
    $code = explode('=', $i->ask('POST', '/api/invitations', [])[1]['path'])[1];
    $states = $i->together(array_map(static fn (int $n) => $i->request('POST', '/api/setup/invited', ['code' => $code, 'login' => "guest$n", 'name' => "Guest $n", 'password' => 'a-long-password'], "guest$n"), range(1, 4)));
    $made = count(array_filter($states, static fn (int $s): bool => 201 === $s));
    $line('accounts made of one invitation by four requests at once', (string) $made, 1 === $made);

    $csv = "a,b,c\n".implode('', array_map(static fn (int $n): string => "$n,".($n * 7 % 13).",v$n\n", range(1, 20000)));
    $fresh = $i->ask('POST', '/api/studies/1/tables', ['uploadId' => $i->upload($csv, 'fresh.csv'), 'name' => 'fresh'])[1];
    $i->until(static fn (): bool => 'done' === $i->ask('GET', '/api/jobs/'.$fresh['id'])[1]['state'], 60);
    $findings = $i->together(array_map(static fn () => $i->request('GET', '/api/tables/'.$fresh['subject'].'/findings'), range(1, 4)));
    $line('first requests for findings at once: states', implode(' ', $findings), [] === array_filter($findings, static fn (int $s): bool => $s >= 500));

    $variant = $i->ask('GET', '/api/studies/1/preparation')[1]['variants'][0]['id'];
    $begun = $i->together([...array_map(static fn () => $i->request('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => 'baseline']), range(1, 4)), ...array_map(static fn () => $i->request('POST', '/api/studies/1/variants', ['name' => 'Another']), range(1, 4))]);
    $letters = array_column($i->ask('GET', '/api/studies/1/preparation')[1]['variants'], 'letter');
    $line('four trials and four variants begun at once: states', implode(' ', $begun), [] === array_filter($begun, static fn (int $s): bool => $s >= 300) && count($letters) === count(array_unique($letters)));

    $time = static function (string $login) use ($i): float {
        $begun = microtime(true);
        $i->ask('POST', '/api/sign-in', ['login' => $login, 'password' => 'wrong'], 'nobody');

        return 1000 * (microtime(true) - $begun);
    };
    $time('warm-up');
    $line('milliseconds to refuse a known / an unknown name', sprintf('%.0f / %.0f', $known = $time('mara'), $unknown = $time('mora')), abs($known - $unknown) < 0.5 * max($known, $unknown));

    $path = $i->data.'/endless.sqlite';
    $database = new SQLite3($path);
    $database->exec('CREATE TABLE a (x); INSERT INTO a VALUES (1); CREATE VIEW z AS WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) SELECT max(i) AS i FROM n');
    $database->close();
    $upload = $i->upload((string) file_get_contents($path), 'endless.sqlite');
    $select = rawurlencode('WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) SELECT count(*) AS x FROM n');
    $begun = microtime(true);
    $pending = array_map(static fn () => $i->request('GET', "/api/uploads/$upload/reading?part=$select"), range(1, 6));
    $all = curl_multi_init();
    array_map(static fn (CurlHandle $r) => curl_multi_add_handle($all, $r), $pending);
    $worst = 0.0;
    $health = true;
    do {
        curl_multi_exec($all, $active);
        curl_multi_select($all, 0.05);
        $asked = microtime(true);
        if ($active > 0 && $asked - $begun > 0.5) {
            $health = $health && 200 === $i->ask('GET', '/api/studies')[0];
            $worst = max($worst, microtime(true) - $asked);
        }
    } while ($active > 0);
    $answers = array_count_values(array_map(static fn (CurlHandle $r): int => (int) curl_getinfo($r, \CURLINFO_RESPONSE_CODE), $pending));
    ksort($answers);
    $line('six never-ending statements looked at: answers, and the slowest other page meanwhile', json_encode($answers).sprintf(' %.1f s', $worst), $health && !isset($answers[500]) && !isset($answers[200]));
    $job = $i->ask('POST', '/api/studies/1/tables', ['uploadId' => $upload, 'name' => 'endless', 'part' => 'z', 'dialect' => $i->ask('GET', "/api/uploads/$upload/reading?part=a")[1]['dialect']])[1]['id'];
    $i->until(static fn (): bool => 'running' === $i->ask('GET', "/api/jobs/$job")[1]['state'], 30);
    $other = $i->ask('POST', '/api/studies/1/tables', ['uploadId' => $i->upload("a,b\n1,2\n", 'small.csv'), 'name' => 'small'])[1]['id'];
    $took = $i->until(static fn (): bool => 'done' === $i->ask('GET', "/api/jobs/$other")[1]['state'], 30);
    $line('a small file beside a never-ending import: seconds', sprintf('%.1f', $took), true);
    $i->ask('DELETE', "/api/jobs/$job");
    $i->ask('POST', "/api/jobs/$job/cancel", []);
    $took = $i->until(static fn (): bool => 'cancelled' === $i->ask('GET', "/api/jobs/$job")[1]['state'], 30);
    exec("pgrep -f '[r]ead-container'", $left);
    $line('the import cancelled: seconds, processes left', sprintf('%.1f, %d', $took, count($left)), [] === $left);
} finally {
    $i->end();
}
