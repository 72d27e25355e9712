<?php

// make bench: the same trials with one worker and with two (decision 36: folds over two workers), and whether their figures are the same.

declare(strict_types=1);

use App\Benchmarks\Bench;

$root = dirname(__DIR__);
require $root.'/vendor/autoload.php';
require __DIR__.'/Bench.php';

$data = sys_get_temp_dir().'/dokimos-bench-'.bin2hex(random_bytes(3));
mkdir($data);
$bench = new Bench($root, $data);

try {
    $bench->php(['bin/console', 'dokimos:migrate']);
    $bench->php(['bin/console', 'dokimos:demo:load']);
    $bench->serve();
    $variant = $bench->api('GET', '/api/studies/1/preparation')[0]['variants'][0]['id'];
    /** @return array{float, string} seconds, the figures of the folds */
    $tried = static function (string $learner, array $settings) use ($bench, $variant): array {
        [$job] = $bench->api('POST', '/api/studies/1/trials', json_encode(['variantId' => $variant, 'learner' => $learner, 'settings' => (object) $settings], \JSON_THROW_ON_ERROR));
        [$seconds, $state] = $bench->await($job['id']);
        foreach ($bench->api('GET', '/api/studies/1/trials')[0]['trials'] as $line) {
            if ($line['id'] === $job['subject']) {
                return [$seconds, json_encode($line['each'], \JSON_THROW_ON_ERROR)];
            }
        }
        throw new RuntimeException('The trial ended as '.$state);
    };
    foreach (['forest' => [], 'boosting' => ['trees' => 300, 'patience' => 0], 'logistic' => ['missing' => 'fill and mark', 'selection' => 'best subsets']] as $learner => $settings) {
        // Once for the compiler of each worker.
        $tried($learner, $settings);
        $long = array_values(array_filter($bench->api('GET', '/api/health')[0]['workers'], static fn (array $w): bool => in_array('long', $w['lanes'], true)));
        $ratios = $times = [];
        $same = true;
        for ($run = 0; $run < 5; ++$run) {
            [$two, $both] = $tried($learner, $settings);
            posix_kill($long[0]['pid'], \SIGSTOP);
            [$one, $alone] = $tried($learner, $settings);
            posix_kill($long[0]['pid'], \SIGCONT);
            $ratios[] = $one / $two;
            $times[] = sprintf('%.1f and %.1f s', $one, $two);
            $same = $same && $both === $alone;
        }
        sort($ratios);
        $bench->line(sprintf('Trial of 11 fits, %s: with one worker and with two', $learner), sprintf('%.2f times faster (median of 5; %s), figures %s', $ratios[2], implode(', ', $times), $same ? 'the same' : 'NOT the same'), '1.6 to 1.8; goal 1.8');
    }
} finally {
    $bench->stop();
    exec('rm -rf '.escapeshellarg($data));
}

// Beside what the other benchmarks wrote there.
$page = preg_replace('/\n## Folds over two workers.*/s', "\n", (string) file_get_contents($root.'/docs/benchmarks-learners.md'))."\n## Folds over two workers\n\nMade by `make bench` on ".date('j M Y').".\n\n| What | Measured | Wanted |\n|---|---|---|\n";
foreach ($bench->lines as [$what, $measured, $wanted]) {
    $page .= sprintf("| %s | %s | %s |\n", trim($what), $measured, $wanted);
}
file_put_contents($root.'/docs/benchmarks-learners.md', $page);
