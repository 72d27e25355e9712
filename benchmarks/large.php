<?php

declare(strict_types=1);

/**
 * make large: a million made visits in an installation of its own: fitted by each learner that can, listed as 300 trials, scored; and the home
 * page of 50 studies with 600 tables. large.php [fit|lists|score] [learner ...] does a part. Prints what took how long and how much memory.
 */
require __DIR__.'/../vendor/autoload.php';
require __DIR__.'/hardship/Installation.php';

use App\Demo\VisitGenerator;
use Dokimos\Benchmarks\Installation;

const ROWS = 1_000_000;
const PIECE = 8 << 20;

$what = $argv[1] ?? 'all';
$asked = array_slice($argv, 2);
$i = new Installation(sys_get_temp_dir().'/dokimos-large-'.getmypid(), dirname(__DIR__), 1500);
$file = sys_get_temp_dir().'/dokimos-visits-'.ROWS.'.csv';
if (!is_file($file)) {
    $handle = fopen($file.'.part', 'w') ?: throw new RuntimeException('No room for a million visits.');
    foreach (VisitGenerator::forPart(5, 'visits')->visits(ROWS) as $line) {
        fwrite($handle, $line);
    }
    fclose($handle);
    rename($file.'.part', $file);
}
$send = static function (string $name) use ($i, $file): int {
    $id = $i->ask('POST', '/api/uploads', ['fileName' => $name, 'size' => filesize($file)])[1]['id'];
    $handle = fopen($file, 'r') ?: throw new RuntimeException('The visits are gone.');
    for ($offset = 0; '' !== $piece = (string) fread($handle, PIECE); $offset += strlen($piece)) {
        $i->ask('PUT', "/api/uploads/$id/pieces?offset=$offset", $piece);
    }

    return $id;
};
/** Waits for a job; seconds, and the largest memory of a worker meanwhile. */
$wait = static function (int $job) use ($i): array {
    $most = 0.0;
    $i->until(static function () use ($i, $job, &$most): bool {
        foreach ($i->workers() as $pid) {
            preg_match('/VmHWM:\s+(\d+)/', (string) @file_get_contents("/proc/$pid/status"), $m);
            $most = max($most, (float) ($m[1] ?? 0) / 1024);
        }

        return !in_array($i->ask('GET', "/api/jobs/$job")[1]['state'], ['waiting', 'running'], true);
    }, 3600);
    $view = $i->ask('GET', "/api/jobs/$job")[1];

    return [$view['seconds'], $most, $view['state'].('done' === $view['state'] ? '' : ': '.$view['message'])];
};
$line = static function (string $what, float $seconds, ?float $megabytes = null, string $more = ''): void {
    printf("%-52s %9.3f s%s  %s\n", $what, $seconds, null === $megabytes ? '' : sprintf('  %6.0f MB', $megabytes), $more);
};
/** The median of seven. */
$asks = static function (string $path) use ($i): array {
    $times = [];
    for ($k = 0; $k < 7; ++$k) {
        $start = microtime(true);
        [, , $text] = $i->ask('GET', $path);
        $times[] = microtime(true) - $start;
    }
    sort($times);

    return [$times[3], strlen($text)];
};
try {
    $i->start();
    $i->signIn();
    $study = $i->ask('POST', '/api/studies', ['name' => 'A million visits', 'question' => 'Which visits need a second one?'])[1]['id'];
    [$seconds, $most, $state] = $wait($i->ask('POST', "/api/studies/$study/tables", ['uploadId' => $send('million.csv'), 'name' => 'million'])[1]['id']);
    $line('import of 1,000,000 x 25', $seconds, $most, $state);
    $start = microtime(true);
    $about = $i->ask('GET', "/api/studies/$study")[1];
    [$status, $answer] = $i->ask('PUT', "/api/studies/$study/target", ['column' => 'return_visit', 'event' => 'yes'], 'mara', ['If-Match: '.$about['version']]);
    $line('target chosen', microtime(true) - $start, null, (string) $status);
    $variant = $i->ask('GET', "/api/studies/$study/preparation")[1]['variants'][0];
    $fits = ['baseline' => [], 'logistic' => ['missing' => 'fill and mark'], 'tree' => [], 'boosting' => ['trees' => 100, 'patience' => 0]];
    $first = null;
    foreach ($fits as $learner => $settings) {
        if ('baseline' !== $learner && !([] === $asked ? in_array($what, ['all', 'fit'], true) : in_array($learner, $asked, true))) {
            continue;
        }
        [$status, $job] = $i->ask('POST', "/api/studies/$study/trials", ['variantId' => $variant['id'], 'learner' => $learner, 'settings' => $settings]);
        if (202 !== $status) {
            printf("%-52s %s\n", $learner, $job['title'] ?? $status);
            continue;
        }
        [$seconds, $most, $state] = $wait($job['id']);
        $first ??= $job['subject'];
        $line("trial of $learner, validation part and whole", $seconds, $most, $state);
    }
    if (in_array($what, ['all', 'fit'], true) && ([] === $asked || in_array('linear', $asked, true))) {
        $now = $i->ask('GET', "/api/studies/$study")[1];
        $i->ask('PUT', "/api/studies/$study/target", ['column' => 'minutes_on_site', 'task' => 'number'], 'mara', ['If-Match: '.$now['version']]);
        [$status, $job] = $i->ask('POST', "/api/studies/$study/trials", ['variantId' => $variant['id'], 'learner' => 'linear', 'settings' => ['missing' => 'fill and mark']]);
        if (202 !== $status) {
            printf("%-52s %s\n", 'linear', $job['title'] ?? $status);
        } else {
            [$seconds, $most, $state] = $wait($job['id']);
            $line('trial of linear, validation part and whole', $seconds, $most, $state);
        }
        $now = $i->ask('GET', "/api/studies/$study")[1];
        $i->ask('PUT', "/api/studies/$study/target", ['column' => 'return_visit', 'event' => 'yes'], 'mara', ['If-Match: '.$now['version']]);
    }
    if (in_array($what, ['all', 'lists'], true)) {
        $database = new SQLite3($i->data.'/dokimos.sqlite');
        $database->busyTimeout(20000);
        $database->exec('CREATE TEMP TABLE numbers AS WITH RECURSIVE n(k) AS (SELECT 1 UNION ALL SELECT k + 1 FROM n WHERE k < 299) SELECT k FROM n');
        $columns = static function (string $table) use ($database): array {
            $names = [];
            for ($rows = $database->query("PRAGMA table_info($table)"); false !== $rows && false !== $row = $rows->fetchArray(\SQLITE3_ASSOC);) {
                'id' === $row['name'] || $names[] = $row['name'];
            }

            return $names;
        };
        // 299 like the first, each with figures and answers of its own.
        $names = $columns('trial_result');
        $last = (int) $database->querySingle('SELECT MAX(id) FROM trial_result');
        $database->exec('INSERT INTO trial_result (id, '.implode(', ', $names).") SELECT $last + k, ".implode(', ', array_map(static fn (string $n): string => 'r.'.$n, $names))." FROM trial t JOIN trial_result r ON r.id = t.result_id, numbers WHERE t.id = $first");
        $names = $columns('trial');
        $own = ['number' => '1000 + k', 'result_id' => "$last + k", 'fitted_id' => 'NULL', 'line' => "json_set(line, '$.value', json_extract(line, '$.value') - k * 0.0001)"];
        $database->exec('INSERT INTO trial ('.implode(', ', $names).') SELECT '.implode(', ', array_map(static fn (string $n): string => $own[$n] ?? $n, $names))." FROM trial, numbers WHERE id = $first");
        [$seconds, $most, $state] = $wait($i->ask('POST', "/api/studies/$study/trials", ['variantId' => $variant['id'], 'learner' => 'baseline', 'settings' => ['answer' => 'rule by one column']])[1]['id']);
        $line('one more trial, compared with the 300', $seconds, $most, $state);
        foreach (["/api/studies/$study/trials" => 'Standings of 300 trials', "/api/studies/$study" => 'a study at a glance, 300 trials'] as $path => $name) {
            $start = microtime(true);
            $i->ask('GET', $path);
            $line($name.', first time', microtime(true) - $start);
            [$seconds, $bytes] = $asks($path);
            $line($name, $seconds, null, number_format($bytes).' bytes');
        }
        $studies = $columns('study');
        $tables = $columns('data_table');
        $cells = $columns('table_column');
        for ($k = 0; $k < 46; ++$k) {
            $database->exec('INSERT INTO study ('.implode(', ', array_map(static fn (string $n): string => "\"$n\"", $studies)).') SELECT '.implode(', ', array_map(static fn (string $n): string => 'name' === $n ? "'Study $k'" : "\"$n\"", $studies)).' FROM study WHERE id = 1');
            $new = $database->lastInsertRowID();
            $database->exec("INSERT INTO question (id, study_id, task) VALUES ($new, $new, 'two classes')");
            $database->exec("INSERT INTO study_member (study_id, user_id, role) SELECT $new, user_id, role FROM study_member WHERE study_id = 1");
            $database->exec('CREATE TEMP TABLE IF NOT EXISTS made (id INTEGER)');
            for ($t = 0; $t < 13; ++$t) {
                $database->exec('INSERT INTO data_table ('.implode(', ', $tables).') SELECT '.implode(', ', array_map(static fn (string $n): string => match ($n) {
                    'study_id' => (string) $new,
                    'name' => "'table $t'",
                    default => $n,
                }, $tables))." FROM data_table WHERE study_id = 1 AND state = 'ready' LIMIT 1");
                $table = $database->lastInsertRowID();
                $database->exec('INSERT INTO table_column ('.implode(', ', $cells).') SELECT '.implode(', ', array_map(static fn (string $n): string => 'table_id' === $n ? (string) $table : $n, $cells)).' FROM table_column WHERE table_id = (SELECT MIN(id) FROM data_table WHERE study_id = 1)');
            }
        }
        [$seconds, $bytes] = $asks('/api/studies');
        $line(sprintf('home of %d studies with %d tables', $database->querySingle('SELECT COUNT(*) FROM study'), $database->querySingle('SELECT COUNT(*) FROM data_table')), $seconds, null, number_format($bytes).' bytes');
    }
    if (in_array($what, ['all', 'score'], true)) {
        $done = array_values(array_filter($i->ask('GET', "/api/studies/$study/trials")[1]['trials'], static fn (array $t): bool => 'done' === $t['state'] && $t['number'] < 1000));
        $batch = $i->ask('POST', "/api/studies/$study/scorings", ['trialId' => $done[0]['id'], 'tableId' => $about['tableId'], 'cutoff' => 0.2])[1];
        [$seconds, $most, $state] = $wait($batch['id']);
        $line('1,000,000 records scored by '.mb_strtolower($done[0]['title']), $seconds, $most, $state);
        [$seconds] = $asks('/api/scorings/'.$batch['subject']);
        $line('the page of the batch', $seconds);
        [$seconds] = $asks('/api/scorings/'.$batch['subject'].'/rows?which=called&descending=1&limit=100&carry[]=visit_id');
        $line('a page of those called', $seconds);
    }
} finally {
    $i->end();
}
