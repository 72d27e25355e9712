<?php

declare(strict_types=1);

use Dokimos\Benchmarks\Installation;
use Symfony\Component\Process\Process;

/** @var string $root @var Closure(string, string, ?bool=): void $line */
$mount = sys_get_temp_dir().'/dokimos-disk-'.getmypid();
mkdir($mount);
if (0 !== (new Process(['mount', '-t', 'tmpfs', '-o', 'size=300m', 'tmpfs', $mount]))->run()) {
    rmdir($mount);
    $line('a full disk', 'left out: no small file system', null);

    return;
}
$i = new Installation($mount.'/data', $root);
try {
    $i->start();
    $i->signIn();
    $variant = $i->ask('GET', '/api/studies/1/preparation')[1]['variants'][0]['id'];
    $csv = "id,km\n".implode('', array_map(static fn (int $n): string => "r$n,$n\n", range(1, 40000)));
    $upload = $i->upload($csv, 'before.csv');
    $fill = fopen($mount.'/fill', 'w');
    while (false !== $fill && (int) @fwrite($fill, str_repeat('x', 4096)) > 0) {
    }
    $line('bytes free', (string) disk_free_space($mount));
    $job = $i->ask('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => 'tree']);
    $seen = [];
    $html = 0;
    foreach ([['GET', '/'], ['GET', '/api/studies'], ['GET', '/api/studies/1'], ['GET', '/api/tables/1/findings'], ['GET', '/api/tables/1/rows'], ['GET', '/api/session'], ['POST', '/api/studies', ['name' => 'x']], ['POST', '/api/uploads', ['fileName' => 'a.csv', 'size' => 100]], ['POST', '/api/studies/1/tables', ['uploadId' => $upload, 'name' => 'before']], ['GET', '/api/notices']] as $asked) {
        for ($n = 0; $n < 3; ++$n) {
            [$status, , $text] = $i->ask(...$asked);
            $seen[$status] = ($seen[$status] ?? 0) + 1;
            $html += $status >= 500 && !str_starts_with(ltrim($text), '{') ? 1 : 0;
        }
    }
    ksort($seen);
    $line('30 requests: states; answers of 500 and above that are no sentence', json_encode($seen)." $html", 0 === $html && !isset($seen[500]) && !isset($seen[0]));
    sleep(8);
    $health = $i->health();
    $line('health says so', str_contains(implode(' ', $health['says'] ?? []), 'disk is full') ? 'yes' : json_encode($health['says'] ?? null), true === str_contains(implode(' ', $health['says'] ?? []), 'disk is full'));
    $line('the supervisor goes on', $i->isRunning() ? 'yes' : 'no', $i->isRunning());
    $backup = $i->console(['dokimos:backup', $mount.'/b.sqlite'], false);
    $left = glob($mount.'/b.sqlite*') ?: [];
    $line('a backup there: says, leaves', trim(substr($backup->getOutput().$backup->getErrorOutput(), 0, 40)).' … '.count($left), 1 === $backup->getExitCode() && [] === $left && str_contains($backup->getOutput(), 'no room'));
    if (false !== $fill) {
        fclose($fill);
    }
    unlink($mount.'/fill');
    $took = $i->until(static fn (): bool => 3 === count($i->workers()), 90);
    [$status, $made] = $i->ask('POST', '/api/studies/1/tables', ['uploadId' => $upload, 'name' => 'after']);
    $took += $i->until(static fn (): bool => 'done' === ($i->ask('GET', '/api/jobs/'.($made['id'] ?? 0))[1]['state'] ?? ''), 90);
    $line('with room again: seconds until an import that was begun before is read', sprintf('%.1f', $took), true);
    $trial = $i->ask('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => 'tree'])[1]['id'];
    $i->until(static fn (): bool => 'done' === ($i->ask('GET', "/api/jobs/$trial")[1]['state'] ?? ''), 120);
    $line('database sound', $i->isSound() ? 'yes' : 'no', $i->isSound());
} finally {
    $i->end();
    (new Process(['umount', $mount]))->run();
    @rmdir($mount);
}
