<?php

declare(strict_types=1);

use Dokimos\Benchmarks\Installation;

/** @var string $root @var Closure(string, string, ?bool=): void $line */
// A search of 400 tries with both workers, with one alone, and with workers killed all the while: the same, and how long each takes.
$i = new Installation(sys_get_temp_dir().'/dokimos-searches-'.getmypid(), $root, 6000);
try {
    $i->start();
    $i->signIn();
    $variant = $i->ask('GET', '/api/studies/1/preparation')[1]['variants'][0]['id'];
    $asked = [
        'spaces' => [
            [
                'learner' => 'tree',
                'settings' => [
                    'depth' => ['from' => 2, 'to' => 12, 'points' => 8, 'by' => 'even'],
                    'leaf' => ['from' => 5, 'to' => 400, 'points' => 25, 'by' => 'factors'],
                ],
            ],
            [
                'learner' => 'boosting',
                'settings' => [
                    'trees' => 60,
                    'patience' => 0,
                    'rate' => ['from' => 0.02, 'to' => 0.3, 'points' => 20, 'by' => 'factors'],
                    'leaves' => ['list' => [2, 3, 4, 6, 8, 10, 12, 16, 24, 32]],
                ],
            ],
        ],
        'variantIds' => [$variant],
    ];
    $ended = static fn (int $job): string => $i->ask('GET', "/api/jobs/$job")[1]['state'];
    /** @return array{float, list<string>, int, float} seconds, what it says, how often it was gone on with, seconds of all its fits */
    $searched = static function (?Closure $meanwhile = null) use ($i, $asked, $ended): array {
        [$status, $job, $text] = $i->ask('POST', '/api/studies/1/searches', $asked);
        202 === $status || throw new RuntimeException($text);
        $search = $job['subject'];
        $begun = microtime(true);
        while (in_array($ended($job['id']), ['waiting', 'running'], true)) {
            null === $meanwhile ? usleep(200000) : $meanwhile();
            microtime(true) - $begun < 900 || throw new RuntimeException('The search did not end.');
        }
        // A piece that lost its worker twice ends the work with a sentence; what was weighed is kept, and it goes on from there.
        $again = 0;
        while ('done' !== $ended($job['id'])) {
            ++$again;
            [$status, $job, $text] = $i->ask('POST', "/api/searches/$search/on", []);
            202 === $status && $again < 20 || throw new RuntimeException($text);
            while (in_array($ended($job['id']), ['waiting', 'running'], true)) {
                null === $meanwhile ? usleep(200000) : $meanwhile();
            }
        }
        $seconds = microtime(true) - $begun;
        $view = $i->ask('GET', "/api/searches/$search")[1];
        $told = [];
        foreach ($view['best'] as $try) {
            $told[] = json_encode([$try['learner'], $try['settings'], $try['value'], $try['low'], $try['high']], \JSON_THROW_ON_ERROR);
        }
        $told[] = json_encode(
            [$view['searching'], $view['luck'], $view['value'], $view['low'], $view['high'], $view['done']],
            \JSON_THROW_ON_ERROR,
        );

        return [$seconds, $told, $again, $view['seconds']];
    };
    // Once for what the workers compile.
    $searched();
    [$two, $told] = $searched();
    $line('a search of 400 tries with two workers', sprintf('%.1f s, %d of the best compared', $two, count($told) - 1), count($told) > 5);
    $long = array_values(array_filter(
        $i->health()['workers'],
        static fn (array $w): bool => in_array('long', $w['lanes'], true),
    ))[0]['pid'];
    posix_kill($long, \SIGSTOP);
    [, $alone, , $fits] = $searched();
    posix_kill($long, \SIGCONT);
    $line(
        'the sum of its fits, measured with one worker',
        sprintf('%.1f s: two workers take %.2f of it', $fits, $two / $fits),
        $two <= 0.65 * $fits,
    );
    $line('its figures', $alone === $told ? 'the same' : 'NOT the same', $alone === $told);
    $kills = 0;
    [$killed, $after, $again] = $searched(static function () use ($i, &$kills): void {
        usleep(6000000);
        $workers = $i->workers();
        if ([] !== $workers) {
            posix_kill($workers[array_rand($workers)], \SIGKILL);
            ++$kills;
        }
    });
    $line(
        "the same with $kills workers killed",
        sprintf('%.1f s, gone on with %d times, %s', $killed, $again, $after === $told ? 'the same' : 'NOT the same'),
        $after === $told,
    );
    $line('database sound', $i->isSound() ? 'yes' : 'no', $i->isSound());
} finally {
    $i->end();
}
