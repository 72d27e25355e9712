<?php

// make bench: measures speed and memory on this machine and writes docs/benchmarks.md. Peers that are not installed give no ratio.

declare(strict_types=1);

use App\Benchmarks\Bench;
use App\Tests\Browser\Chrome;

$root = dirname(__DIR__);
require $root.'/vendor/autoload.php';
require __DIR__.'/Bench.php';

$data = sys_get_temp_dir().'/dokimos-bench-'.bin2hex(random_bytes(3));
mkdir($data);
$bench = new Bench($root, $data);

try {
    $start = microtime(true);
    $bench->php(['bin/console', 'dokimos:demo:generate', '--rows=1000000', '--only=visits', '--dir='.$data.'/big']);
    $bench->line('Demo generator, 1,000,000 visits', sprintf('%s rows/s', number_format(1e6 / (microtime(true) - $start))), 'more than 50,000 rows/s');

    $bench->php(['bin/console', 'dokimos:migrate']);
    $bench->php(['bin/console', 'dokimos:demo:load']);
    $bench->serve();

    $paths = ['/api/studies', '/api/studies/1', '/api/tables/1', '/api/tables/1/rows?limit=100', '/api/tables/1/rows?limit=100&sort=days_ahead', '/api/columns/4', '/api/studies/1/preparation', '/api/studies/2/trials', '/api/trials/1/judgment', '/api/trials/1/reasons/3', '/api/studies/1/logbook', '/api/jobs'];
    $medians = [];
    foreach ($paths as $path) {
        $times = [];
        for ($i = 0; $i < 15; ++$i) {
            $times[] = $bench->api('GET', $path)[1];
        }
        $medians[$path] = Bench::median($times);
    }
    arsort($medians);
    $bench->line('API on the demo study, median of medians', sprintf('%.0f ms', 1000 * Bench::median(array_values($medians))), 'under 100 ms');
    $bench->line('API on the demo study, slowest: '.array_key_first($medians), sprintf('%.0f ms', 1000 * reset($medians)), 'under 100 ms');

    $runs = [];
    for ($i = 0; $i < 3; ++$i) {
        $upload = $bench->upload($data.'/big/visits.csv');
        [$job] = $bench->api('POST', '/api/studies/1/tables', json_encode(['uploadId' => $upload, 'name' => 'million'], \JSON_THROW_ON_ERROR));
        [$seconds, $state] = $bench->await($job['id']);
        $runs[] = $seconds;
    }
    $bench->line('Import 1,000,000 × 25, two workers, profile and source kept', sprintf('%s rows/s (median of 3; %.1f to %.1f s, %s)', number_format(1e6 / Bench::median($runs)), min($runs), max($runs), trim($state)), '100,000 rows/s');
    $bench->line('  most memory of a worker', $bench->workerPeak().' MB', 'under 512 MB');
    $register = [];
    for ($i = 0; $i < 5; ++$i) {
        $register[] = $bench->api('GET', '/api/tables/'.$job['subject'])[1];
    }
    $bench->line('  its Register, median', sprintf('%.0f ms', 1000 * Bench::median($register)), 'under 1 s');
    $bench->line('  a page of 100 rows, in file order', sprintf('%.0f ms', 1000 * $bench->api('GET', '/api/tables/'.$job['subject'].'/rows?limit=100&offset=700000')[1]), '');
    $bench->line('  sorted by days_ahead, first touch', sprintf('%.1f s', $bench->api('GET', '/api/tables/'.$job['subject'].'/rows?limit=100&sort=days_ahead')[1]), '');
    $bench->line('  sorted, second page', sprintf('%.0f ms', 1000 * $bench->api('GET', '/api/tables/'.$job['subject'].'/rows?limit=100&sort=days_ahead&offset=5000')[1]), 'under 200 ms (issue 3)');

    $bundle = 0;
    $html = (string) file_get_contents($root.'/public/app/index.html');
    preg_match_all('#/app/(assets/[^"]+\.(?:js|css))#', $html, $m);
    foreach (array_unique($m[1]) as $file) {
        $bundle += strlen((string) gzencode((string) file_get_contents($root.'/public/app/'.$file), 6));
    }
    $bench->line('First bundle, compressed (scripts and styles of the page)', sprintf('%.0f kB', $bundle / 1000), 'under 400 kB');

    if (is_file('/usr/bin/chromedriver')) {
        $loads = [];
        for ($i = 0; $i < 3; ++$i) {
            $chrome = new Chrome($data.'/downloads');
            $chrome->driver->get($bench->base.'/');
            for ($t = 0; $t < 200 && true !== $chrome->driver->executeScript('return document.querySelector("button[type=submit]") !== null'); ++$t) {
                usleep(10000);
            }
            $loads[] = (float) $chrome->driver->executeScript('return performance.now()');
            $chrome->quit();
        }
        $bench->line('Cold load of the page until it can be used, median', sprintf('%.0f ms', Bench::median($loads)), 'under 1,500 ms');
    }
    $bench->stop();

    $peers = $root.'/../shared/peers';
    $columns = $data.'/data';
    if (is_file($peers.'/gen.py') && is_executable('/usr/bin/python3') && 0 === (static function () use ($peers, $data): int {
        mkdir($data.'/data');
        exec(sprintf('cd %s && /usr/bin/python3 %s lin100k 100000 30 3 lin 2>&1', escapeshellarg($data), escapeshellarg(realpath($peers).'/gen.py')), $out, $code);

        return $code;
    })()) {
        // Interleaved, so that a busy moment of the machine meets both.
        $ours = $theirs = [];
        for ($i = 0; $i < 3; ++$i) {
            preg_match_all('/cpu ([\d.]+) steps (\d+) b1 ([-\d.e]+) peak (\d+)/', $bench->php(['benchmarks/logistic.php', $columns, 'lin100k']), $a);
            $ours = [...$ours, ...array_map(floatval(...), $a[1])];
            if (is_executable('/usr/bin/Rscript')) {
                preg_match_all('/user ([\d.]+).*b1 ([-\d.e]+)/', (string) shell_exec(sprintf('cd %s && OMP_NUM_THREADS=1 OPENBLAS_NUM_THREADS=1 Rscript %s lin100k', escapeshellarg($data), escapeshellarg(realpath($peers).'/glm.R'))), $b);
                $theirs = [...$theirs, ...array_map(floatval(...), $b[1])];
            }
        }
        $ratio = [] === $theirs ? 'no peer here' : sprintf('%.2f × the peer (%.2f s)', Bench::median($ours) / Bench::median($theirs), Bench::median($theirs));
        $bench->line('Logistic regression 100,000 × 30, CPU', sprintf('%.2f s, %s', Bench::median($ours), $ratio), 'at most 1.6 ×');
        $bench->line('  first coefficient, ours and the peer\'s', sprintf('%s, %s', $a[3][0] ?? '', $b[2][0] ?? '–'), '8 digits equal');
    } else {
        $bench->line('Logistic regression 100,000 × 30', 'no peer and no data here: install python3-numpy and r-base-core', 'at most 1.6 ×');
    }
} finally {
    $bench->stop();
    exec('rm -rf '.escapeshellarg($data));
}

$page = "# Benchmarks\n\nMade by `make bench` on ".date('j M Y').' with PHP '.\PHP_VERSION.', '.trim((string) shell_exec('nproc'))." cores. Times depend on the machine; ratios are of the same run.\n\n| What | Measured | Wanted |\n|---|---|---|\n";
foreach ($bench->lines as [$what, $measured, $wanted]) {
    $page .= sprintf("| %s | %s | %s |\n", trim($what), $measured, $wanted);
}
// What other commands measured stays: they are run on their own.
$before = is_file($root.'/docs/benchmarks.md') ? (string) file_get_contents($root.'/docs/benchmarks.md') : '';
$rest = strstr($before, "\n## ");
file_put_contents($root.'/docs/benchmarks.md', $page.(false === $rest ? '' : $rest));
