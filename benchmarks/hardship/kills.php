<?php

declare(strict_types=1);

use Dokimos\Benchmarks\Installation;

/** @var string $root @var Closure(string, string, ?bool=): void $line */
$i = new Installation(sys_get_temp_dir().'/dokimos-kills-'.getmypid(), $root);
try {
    $i->start();
    $i->signIn();
    $variant = $i->ask('GET', '/api/studies/1/preparation')[1]['variants'][0]['id'];
    $csv = "id,km,when\n".implode('', array_map(static fn (int $n): string => "r$n,".($n % 97).",2026-01-02\n", range(1, 60000)));
    $jobs = $tables = [];
    for ($n = 0; $n < 12; ++$n) {
        $begun = 0 === $n % 2 ? $i->ask('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => ['logistic', 'tree', 'forest'][$n % 3]])[1] : $i->ask('POST', '/api/studies/1/tables', ['uploadId' => $i->upload($csv, "t$n.csv"), 'name' => "t$n"])[1];
        $jobs[] = $begun['id'];
    }
    $half = $kills = 0;
    for ($n = 0; $n < 14; ++$n) {
        usleep(700000);
        $workers = $i->workers();
        if ([] !== $workers) {
            posix_kill($workers[array_rand($workers)], \SIGKILL);
            ++$kills;
        }
        foreach ($i->ask('GET', '/api/studies/1/tables')[1] as $table) {
            $half += 'ready' === $table['state'] && str_starts_with($table['name'], 't') && 60000 !== $table['rows'] && !in_array($table['name'], ['households'], true) && 1 === preg_match('/^t\d+$/', $table['name']) ? 1 : 0;
        }
    }
    $states = static fn (): array => array_map(static fn (int $id): string => $i->ask('GET', "/api/jobs/$id")[1]['state'], $jobs);
    $took = $i->until(static fn (): bool => [] === array_intersect($states(), ['waiting', 'running']), 300);
    $ends = array_count_values($states());
    $line("$kills workers killed among 12 jobs: done / failed with a sentence", ($ends['done'] ?? 0).' / '.($ends['failed'] ?? 0), 12 === array_sum($ends));
    $line('half a table seen', (string) $half, 0 === $half);
    $line('database sound', $i->isSound() ? 'yes' : 'no', $i->isSound());

    $i->signal(\SIGKILL);
    $begun = microtime(true);
    $i->start();
    $line('supervisor killed: seconds until the next one serves', sprintf('%.1f', microtime(true) - $begun), true);

    $job = $i->ask('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => 'boosting', 'settings' => ['trees' => 2000, 'patience' => 0]])[1]['id'];
    for ($n = 0; $n < 4; ++$n) {
        $i->until(static fn (): bool => 'running' === $i->ask('GET', "/api/jobs/$job")[1]['state'], 60);
        usleep(300000);
        $i->signal(\SIGINT);
        $i->start();
    }
    $i->until(static fn (): bool => !in_array($i->ask('GET', "/api/jobs/$job")[1]['state'], ['waiting', 'running'], true), 300);
    $state = $i->ask('GET', "/api/jobs/$job")[1]['state'];
    $line('a long trial after four orderly stops', $state, 'done' === $state);
} finally {
    $i->end();
}
