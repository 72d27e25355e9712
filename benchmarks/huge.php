<?php

declare(strict_types=1);

/**
 * make huge: ten million made visits of 25 columns, and 50,000 records of 2,000 columns, each in an installation of its own. Prints what
 * took
 * how long, how much memory a worker needed at most, and what refusals say. huge.php [long|wide|all] [rows of the long one]
 */
require __DIR__.'/../vendor/autoload.php';
require __DIR__.'/hardship/Installation.php';

use App\Demo\VisitGenerator;
use Dokimos\Benchmarks\Installation;

const PIECE = 8 << 20;
// A worker of 4 GB.
putenv('DOKIMOS_WORKER_MB='.($_SERVER['DOKIMOS_WORKER_MB'] = $_ENV['DOKIMOS_WORKER_MB'] = '4096'));

$what = $argv[1] ?? 'all';
$rows = (int) ($argv[2] ?? 10_000_000);
$root = dirname(__DIR__);
$line = static function (string $what, float $seconds, ?float $megabytes = null, string $more = ''): void {
    printf("%-64s %9.3f s%s  %s\n", $what, $seconds, null === $megabytes ? '' : sprintf('  %6.0f MB', $megabytes), $more);
};
$send = static function (Installation $i, string $file, string $name): int {
    $id = $i->ask(
        'POST',
        '/api/uploads',
        ['fileName' => $name, 'size' => filesize($file)],
    )[1]['id'] ?? throw new RuntimeException('It was not taken.');
    $handle = fopen($file, 'r') ?: throw new RuntimeException('The file is gone.');
    for ($offset = 0; '' !== $piece = (string) stream_get_contents($handle, PIECE); $offset += strlen($piece)) {
        $i->ask('PUT', "/api/uploads/$id/pieces?offset=$offset", $piece);
    }

    return $id;
};
/** Waits for a job; seconds, and the largest memory of a worker meanwhile. */
$wait = static function (Installation $i, int $job): array {
    $most = 0.0;
    $i->until(static function () use ($i, $job, &$most): bool {
        foreach (glob('/proc/[0-9]*/status') ?: [] as $status) {
            $text = (string) @file_get_contents($status);
            if (str_contains(
                (string) @file_get_contents(dirname($status).'/cmdline'),
                'messenger:consume',
            ) && 1 === preg_match('/VmHWM:\s+(\d+)/', $text, $m)) {
                $most = max($most, (float) $m[1] / 1024);
            }
        }

        return !in_array($i->ask('GET', "/api/jobs/$job")[1]['state'], ['waiting', 'running'], true);
    }, 7200);
    $view = $i->ask('GET', "/api/jobs/$job")[1];

    return [$view['seconds'], $most, $view['state'].('done' === $view['state'] ? '' : ': '.$view['message'])];
};
/** The median of seven, the first left out. */
$asks = static function (Installation $i, Closure $path): array {
    $times = [];
    for ($k = 0; $k < 8; ++$k) {
        $start = microtime(true);
        [$status, , $text] = $i->ask('GET', $path($k));
        $times[] = microtime(true) - $start;
    }
    $first = array_shift($times);
    sort($times);

    return [$times[3], sprintf('%d, %s bytes, first time %.3f s', $status, number_format(strlen($text)), $first)];
};
$trial = static function (Installation $i, int $study, string $learner, array $settings, ?int $part) use ($wait, $line): ?int {
    $variant = $i->ask('GET', "/api/studies/$study/preparation")[1]['variants'][0];
    [$status, $job] = $i->ask(
        'POST',
        "/api/studies/$study/trials",
        ['variantId' => $variant['id'], 'learner' => $learner, 'settings' => (object) $settings, 'rows' => $part],
    );
    $name = sprintf('trial of %s%s', $learner, null === $part ? '' : ' that learns from '.number_format($part));
    if (202 !== $status) {
        printf("%-64s %s\n", $name, $job['title'] ?? $status);

        return null;
    }
    [$seconds, $most, $state] = $wait($i, $job['id']);
    $value = array_column($i->ask('GET', "/api/studies/$study/trials")[1]['trials'], 'value', 'id')[$job['subject']] ?? null;
    $line($name, $seconds, $most, $state.(null === $value ? '' : sprintf(', %.4f', $value)));

    return $job['subject'];
};
$target = static function (Installation $i, int $study, array $asked) use ($line): void {
    $start = microtime(true);
    [$status, $said] = $i->ask(
        'PUT',
        "/api/studies/$study/target",
        $asked,
        'mara',
        ['If-Match: '.$i->ask('GET', "/api/studies/$study")[1]['version']],
    );
    $line('target '.$asked['column'].' chosen', microtime(true) - $start, null, $status.' '.($said['title'] ?? ''));
};

if (in_array($what, ['all', 'long'], true)) {
    $file = sys_get_temp_dir()."/dokimos-visits-$rows.csv";
    if (!is_file($file)) {
        $handle = fopen($file.'.part', 'w') ?: throw new RuntimeException('There is no room.');
        for ($done = 0, $seed = 5; $done < $rows; $done += 1_000_000, ++$seed) {
            foreach (VisitGenerator::forPart($seed, 'visits')->visits(min(1_000_000, $rows - $done)) as $k => $csv) {
                0 === $k && $done > 0 || fwrite($handle, $csv);
            }
        }
        fclose($handle);
        rename($file.'.part', $file);
    }
    $i = new Installation(sys_get_temp_dir().'/dokimos-huge-'.getmypid(), $root, 1500);
    try {
        $i->start();
        $i->signIn();
        $study = $i->ask('POST', '/api/studies', ['name' => 'Ten million', 'question' => 'Which visits need a second one?'])[1]['id'];
        $start = microtime(true);
        $upload = $send($i, $file, 'many.csv');
        $line(sprintf('%.2f GB sent', filesize($file) / 1e9), microtime(true) - $start);
        $job = $i->ask('POST', "/api/studies/$study/tables", ['uploadId' => $upload, 'name' => 'many'])[1];
        [$seconds, $most, $state] = $wait($i, $job['id']);
        $line(
            sprintf('import of %s x 25', number_format($rows)),
            $seconds,
            $most,
            sprintf('%s, %s rows a second', $state, number_format($rows / max(1e-9, $seconds))),
        );
        $table = $job['subject'];
        [$seconds, $more] = $asks($i, static fn (int $k): string => "/api/tables/$table");
        $line('Register', $seconds, null, $more);
        [$seconds, $more] = $asks($i, static fn (int $k): string => "/api/tables/$table/rows?limit=100&offset=".(int) ($rows * $k / 9));
        $line('a page of rows, anywhere', $seconds, null, $more);
        [$seconds, $more] = $asks(
            $i,
            static fn (int $k): string => "/api/tables/$table/rows?limit=100&sort=travel_km&offset=".(int) ($rows * $k / 9),
        );
        $line('a page of rows in the order of a column', $seconds, null, $more);
        foreach ($i->ask('GET', "/api/tables/$table")[1]['columns'] as $column) {
            if (in_array($column['name'], ['parts_ordered_after', 'minutes_on_site', 'outcome'], true)) {
                $i->ask('PATCH', '/api/columns/'.$column['id'], ['known' => false], 'mara', ['If-Match: '.$column['version']]);
            }
        }
        $target($i, $study, ['column' => 'return_visit', 'event' => 'yes']);
        // Of a table that is not divided whole a part is drawn; what a larger part brings is what a smaller one costs.
        foreach ([500_000, 1_000_000, 2_000_000] as $part) {
            $drawn = null;
            if ($part < $rows) {
                $asked = ['tableId' => $table, 'combination' => ['kind' => 'draw', 'records' => $part], 'name' => 'drawn '.$part];
                $start = microtime(true);
                [$status] = $i->ask('POST', "/api/studies/$study/combinations", $asked + ['preview' => true]);
                $line(sprintf('%s drawn: looked at', number_format($part)), microtime(true) - $start, null, (string) $status);
                [$seconds, $most, $state] = $wait($i, ($job = $i->ask('POST', "/api/studies/$study/combinations", $asked)[1])['id']);
                $line(sprintf('%s drawn: made', number_format($part)), $seconds, $most, $state);
                $drawn = $job['subject'];
            } elseif ($rows > $part / 2) {
                $drawn = $table;
            } else {
                continue;
            }
            $target($i, $study, ['tableId' => $drawn, 'column' => 'return_visit', 'event' => 'yes']);
            $start = microtime(true);
            $variant = $i->ask('GET', "/api/studies/$study/preparation")[1]['variants'][0];
            $steps = [['step' => 'fill_missing', 'columns' => ['boiler_age'], 'method' => 'median']];
            [$status] = $i->ask('PUT', '/api/variants/'.$variant['id'], ['steps' => $steps], 'mara', ['If-Match: '.$variant['version']]);
            $line('preparation asked for', microtime(true) - $start, null, (string) $status);
            $trial($i, $study, 'boosting', ['trees' => 100, 'patience' => 0], null);
            $trial($i, $study, 'logistic', [], null);
            $target($i, $study, ['tableId' => $drawn, 'column' => 'minutes_on_site', 'task' => 'number']);
            $trial($i, $study, 'linear', [], null);
        }
        printf("database %.1f GB\n", (int) filesize($i->data.'/dokimos.sqlite') / 1e9);
    } finally {
        $i->end();
    }
}
if (in_array($what, ['all', 'wide'], true)) {
    $file = sys_get_temp_dir().'/dokimos-wide.csv';
    if (!is_file($file)) {
        mt_srand(17);
        $handle = fopen($file.'.part', 'w') ?: throw new RuntimeException('There is no room.');
        fwrite($handle, 'key,came,'.implode(',', array_map(static fn (int $k): string => "c$k", range(1, 1998)))."\n");
        for ($r = 0; $r < 50_000; ++$r) {
            $cells = [];
            $pull = 0.0;
            for ($k = 0; $k < 1998; ++$k) {
                $v = mt_rand(-1000, 1000);
                $pull += $k < 10 ? $v / 1000 : 0.0;
                $cells[] = 0 === $k % 50 ? ['red', 'green', 'blue', 'grey'][$v & 3] : (0 === $v % 23 ? '' : $v / 100);
            }
            fwrite($handle, "r$r,".($pull + mt_rand(-1000, 1000) / 700 > 0.9 ? 'yes' : 'no').','.implode(',', $cells)."\n");
        }
        fclose($handle);
        rename($file.'.part', $file);
    }
    // So many columns of 40,000 rows take four gigabytes by themselves.
    putenv('DOKIMOS_WORKER_MB='.($_SERVER['DOKIMOS_WORKER_MB'] = $_ENV['DOKIMOS_WORKER_MB'] = '8192'));
    $i = new Installation(sys_get_temp_dir().'/dokimos-wide-'.getmypid(), $root, 1500);
    try {
        $i->start();
        $i->signIn();
        $study = $i->ask('POST', '/api/studies', ['name' => 'Wide', 'question' => 'What tells?'])[1]['id'];
        $job = $i->ask('POST', "/api/studies/$study/tables", ['uploadId' => $send($i, $file, 'wide.csv'), 'name' => 'wide'])[1];
        [$seconds, $most, $state] = $wait($i, $job['id']);
        $line('import of 50,000 x 2,000', $seconds, $most, $state);
        $table = $job['subject'];
        foreach ([
            'Register' => "/api/tables/$table",
            'findings' => "/api/tables/$table/findings",
            'a page of rows' => "/api/tables/$table/rows?limit=50",
        ] as $name => $path) {
            [$seconds, $more] = $asks($i, static fn (int $k): string => $path);
            $line($name, $seconds, null, $more);
        }
        $target($i, $study, ['column' => 'came', 'event' => 'yes']);
        // What waits for a worker is asked for once, and again once it is there.
        if (202 === ($asked = $i->ask('GET', "/api/tables/$table/findings"))[0]) {
            [$seconds, $most, $state] = $wait($i, $asked[1]['job']['id']);
            $line('findings and pictures, by workers', $seconds, $most, $state);
        }
        [$seconds, $more] = $asks($i, static fn (int $k): string => "/api/tables/$table/findings");
        $line('findings, kept', $seconds, null, $more);
        [$seconds, $more] = $asks($i, static fn (int $k): string => "/api/studies/$study/preparation");
        $line('preparation', $seconds, null, $more);
        if (202 === ($asked = $i->ask('GET', "/api/tables/$table/goes-with?column=c1"))[0]) {
            [$seconds, $most, $state] = $wait($i, $asked[1]['job']['id']);
            $line('what goes with a column, by a worker', $seconds, $most, $state);
        }
        [$seconds, $more] = $asks($i, static fn (int $k): string => "/api/tables/$table/goes-with?column=c1");
        $line('what goes with it, kept', $seconds, null, $more);
        $id = $trial($i, $study, 'boosting', ['trees' => 100], null);
        if (null !== $id) {
            [$seconds, $more] = $asks($i, static fn (int $k): string => "/api/trials/$id/judgment");
            $line('its page', $seconds, null, $more);
        }
    } finally {
        $i->end();
    }
}
