<?php

declare(strict_types=1);

use Dokimos\Benchmarks\Installation;
use Symfony\Component\Process\Process;

/**
 * A slow disk: whatever waits for the disk waits 100 ms longer, and each write to a file 2 ms, by a small library that is put before the
 * system's own. Left out, and said so, where there is no C compiler.
 *
 * @var string                                $root
 * @var Closure(string, string, ?bool=): void $line
 */
$library = sys_get_temp_dir().'/dokimos-slow-'.getmypid().'.so';
$source = <<<'C'
    #define _GNU_SOURCE
    #include <dlfcn.h>
    // PHP binds the libraries of its extensions past whatever stands before them.
    void *dlopen(const char *n, int flags) {
        static void *(*o)(const char *, int); if (!o) o = dlsym(RTLD_NEXT, "dlopen"); return o(n, flags & ~RTLD_DEEPBIND);
    }
    #include <sys/types.h>
    #include <unistd.h>
    int fsync(int f) { static int (*o)(int); if (!o) o = dlsym(RTLD_NEXT, "fsync"); usleep(100000); return o(f); }
    int fdatasync(int f) { static int (*o)(int); if (!o) o = dlsym(RTLD_NEXT, "fdatasync"); usleep(100000); return o(f); }
    typedef ssize_t (*writer)(int, const void *, size_t, off_t);
    ssize_t pwrite(int f, const void *b, size_t n, off_t a) {
        static writer o; if (!o) o = (writer) dlsym(RTLD_NEXT, "pwrite"); usleep(2000); return o(f, b, n, a);
    }
    ssize_t pwrite64(int f, const void *b, size_t n, off64_t a) {
        static writer o; if (!o) o = (writer) dlsym(RTLD_NEXT, "pwrite64"); usleep(2000); return o(f, b, n, a);
    }
    C;
$compile = new Process(['cc', '-shared', '-fPIC', '-O1', '-x', 'c', '-o', $library, '-', '-ldl'], null, null, $source, 60);
try {
    $built = 0 === $compile->run();
} catch (Throwable) {
    $built = false;
}
if (!$built) {
    $line('a slow disk', 'left out: there is no C compiler');

    return;
}
// The programs that are started get their environment anew: a PHP of that name puts the library before itself.
$php = sys_get_temp_dir().'/dokimos-slow-php-'.getmypid();
file_put_contents($php, "#!/bin/bash\nexport LD_PRELOAD=$library\nexec -a \"\$0\" ".escapeshellarg(\PHP_BINARY)." \"\$@\"\n");
chmod($php, 0755);
$i = new Installation(sys_get_temp_dir().'/dokimos-slow-'.getmypid(), $root, php: $php);
try {
    $i->start();
    $slow = array_filter(
        [...$i->workers(), ...$i->webServers()],
        static fn (int $pid): bool => str_contains((string) @file_get_contents("/proc/$pid/maps"), basename($library)),
    );
    $i->signIn();
    $csv = "id,km,when\n".implode('', array_map(static fn (int $n): string => "r$n,".($n % 97).",2026-01-02\n", range(1, 60000)));
    $variant = $i->ask('GET', '/api/studies/1/preparation')[1]['variants'][0];
    $begun = microtime(true);
    $jobs = [$i->ask('POST', '/api/studies/1/tables', ['uploadId' => $i->upload($csv, 'slow.csv'), 'name' => 'slow'])[1]['id']];
    foreach (['logistic', 'tree', 'boosting'] as $learner) {
        $jobs[] = $i->ask('POST', '/api/studies/1/trials', ['variantId' => $variant['id'], 'learner' => $learner])[1]['id'];
    }
    $took = $bad = [];
    $state = static fn (int $id): string => (string) ($i->ask('GET', "/api/jobs/$id")[1]['state'] ?? '');
    $i->until(static function () use ($i, $jobs, $state, &$took, &$bad): bool {
        foreach (['/api/studies', '/api/studies/1', '/api/studies/1/trials', '/api/tables/1/rows?limit=50'] as $path) {
            $at = microtime(true);
            [$status] = $i->ask('GET', $path);
            $took[] = microtime(true) - $at;
            200 === $status || $bad[] = "$path: $status";
        }
        $at = microtime(true);
        $version = $i->ask('GET', '/api/studies/1')[1]['version'];
        [$status] = $i->ask('PATCH', '/api/studies/1', ['name' => 'Return visits '.count($took)], 'mara', ['If-Match: '.$version]);
        $took[] = microtime(true) - $at;
        in_array($status, [200, 412], true) || $bad[] = "rename: $status";

        return [] === array_filter($jobs, static fn (int $id): bool => in_array($state($id), ['waiting', 'running', ''], true));
    }, 900);
    sort($took);
    $ends = array_count_values(array_map($state, $jobs));
    $line(
        'a slow disk (100 ms more for each wait for it): an import and three trials; seconds',
        sprintf('%d of %d done; %.0f', $ends['done'] ?? 0, count($jobs), microtime(true) - $begun),
        count($jobs) === ($ends['done'] ?? 0),
    );
    $line(
        'pages and changes meanwhile: median / 95th percentile, milliseconds; refused',
        sprintf(
            '%.0f / %.0f; %s',
            1000 * $took[intdiv(count($took), 2)],
            1000 * $took[(int) (0.95 * (count($took) - 1))],
            [] === $bad ? '0' : implode(', ', array_slice($bad, 0, 3)),
        ),
        [] === $bad,
    );
    $line('programs on the slow disk', (string) count($slow), count($slow) > 3);
    $line('the database sound after it', $i->isSound() ? 'yes' : 'no', $i->isSound());
} finally {
    $i->end();
    @unlink($library);
    @unlink($php);
}
