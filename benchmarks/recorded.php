<?php

declare(strict_types=1);

/**
 * make recorded: what the application answers on its demo data, for every learner and task, compared with what was recorded: a change of form
 * changes none of it, to the last bit. recorded.php write records anew, after a change that is meant to change answers; recorded.php keep FOLDER
 * also keeps the answers themselves, one file each, to see what differs.
 */
require __DIR__.'/../vendor/autoload.php';
require __DIR__.'/hardship/Installation.php';

use Dokimos\Benchmarks\Installation;

const KEPT = __DIR__.'/recorded.json';
/** What differs from one run to the next. */
const VOLATILE = ['createdAt', 'importedAt', 'at', 'lastAt', 'lastSentence', 'seconds', 'secondsLeft', 'secondsPerRow', 'forecast', 'version'];

$i = new Installation(sys_get_temp_dir().'/dokimos-recorded-'.getmypid(), dirname(__DIR__));
$found = [];
$blank = static function (mixed $value) use (&$blank): mixed {
    if (!is_array($value)) {
        return $value;
    }
    foreach ($value as $key => $own) {
        $value[$key] = in_array($key, VOLATILE, true) ? null : $blank($own);
    }
    // An object is the same in any order.
    if (!array_is_list($value)) {
        ksort($value);
    }

    return $value;
};
$keep = static function (string $name, int $status, string $text) use (&$found, $blank): void {
    $json = json_decode($text, true);
    if ('keep' === ($GLOBALS['argv'][1] ?? '')) {
        file_put_contents($GLOBALS['argv'][2].'/'.strtr($name, '/?', '_-'), null === $json ? $text : json_encode($blank($json), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION | \JSON_PRETTY_PRINT));
    }
    $found[$name] = $status.' '.hash('xxh128', null === $json ? (string) preg_replace('/\d{4}-\d\d-\d\dT[\d:+]+/', '', $text) : json_encode($blank($json), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));
};
$get = static function (string $path) use ($i, $keep): mixed {
    [$status, $json, $text] = $i->ask('GET', $path);
    $keep($path, $status, $text);

    return $json;
};
try {
    $i->start();
    $i->signIn();
    $settings = [
        'logistic' => [[], ['penalty' => 'lasso'], ['selection' => 'stepwise', 'missing' => 'fill and mark'], ['balance' => 'weighted up']], 'multinomial' => [[], ['penalty' => 'ridge']], 'linear' => [[], ['penalty' => 'elastic net'], ['selection' => 'best subsets']],
        'tree' => [[], ['depth' => 3]], 'rules' => [[]], 'forest' => [['trees' => 20]], 'boosting' => [['trees' => 40], ['trees' => 30, 'balance' => 'frequent ones thinned out'], ['trees' => 30, 'loss' => 'quantile']], 'baseline' => [[], ['answer' => 'rule by one column']],
    ];
    foreach (['/api/learners', '/api/steps', '/api/examples'] as $path) {
        $get($path);
    }
    foreach ([1 => null, 3 => null, 2 => ['column' => 'outcome', 'task' => 'several classes', 'folds' => 3, 'repeats' => 1]] as $study => $target) {
        $about = $i->ask('GET', "/api/studies/$study")[1];
        if (null !== $target) {
            $i->ask('PUT', "/api/studies/$study/target", $target, 'mara', ['If-Match: '.$about['version']]);
        }
        $table = $about['tableId'];
        foreach (['', '/findings', '/rows?limit=50', '/rows?sort=quoted_cost&limit=20', '/pictures/missing', '/pictures/repeats', '/pictures/apart', '/pictures/lopsided', '/pictures/together', '/pictures/two?x=days_ahead&y=boiler_age', '/pictures/two?x=slot&y=depot'] as $part) {
            $get("/api/tables/$table$part");
        }
        foreach ($i->ask('GET', "/api/tables/$table")[1]['columns'] as $column) {
            $get('/api/columns/'.$column['id']);
        }
        $variant = $get("/api/studies/$study/preparation")['variants'][0]['id'];
        $task = $i->ask('GET', "/api/studies/$study")[1]['task'];
        foreach ($i->ask('GET', '/api/learners')[1] as $learner) {
            foreach (in_array($task, $learner['tasks'], true) ? $settings[$learner['name']] ?? [[]] : [] as $own) {
                $i->ask('POST', "/api/studies/$study/trials", ['variantId' => $variant, 'learner' => $learner['name'], 'settings' => $own]);
            }
        }
        $i->until(static fn (): bool => [] === array_filter($i->ask('GET', '/api/jobs')[1], static fn (array $j): bool => in_array($j['state'], ['waiting', 'running'], true)), 600);
        $get("/api/studies/$study/trials");
        $get("/api/studies/$study");
        $scorings = 0;
        $trials = $i->ask('GET', "/api/studies/$study/trials")[1]['trials'];
        usort($trials, static fn (array $a, array $b): int => $a['id'] <=> $b['id']);
        foreach ($trials as $trial) {
            if ('done' !== $trial['state'] || $trial['task'] !== $task) {
                continue;
            }
            foreach (['/judgment', '/groups', '/worst?limit=10', '/records?cell=fn&cutoff=0.2&limit=10', '/tree', '/reasons/7', '/against?other='.$trials[count($trials) - 1]['id']] as $part) {
                $get('/api/trials/'.$trial['id'].$part);
            }
            $batch = $i->ask('POST', "/api/studies/$study/scorings", ['trialId' => $trial['id'], 'tableId' => $table, 'cutoff' => 0.2])[1];
            if (isset($batch['id'])) {
                $i->until(static fn (): bool => !in_array($i->ask('GET', '/api/jobs/'.$batch['id'])[1]['state'], ['waiting', 'running'], true), 120);
                foreach (['', '/rows?limit=30', '/file?carry[]=visit_id'] as $part) {
                    $get('/api/scorings/'.$batch['subject'].$part);
                }
            }
        }
    }
} finally {
    $i->end();
}
ksort($found);
if ('write' === ($argv[1] ?? '')) {
    file_put_contents(KEPT, json_encode($found, \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_THROW_ON_ERROR)."\n");
    printf("%d answers recorded.\n", count($found));
    exit(0);
}
$kept = json_decode((string) file_get_contents(KEPT), true, 4, \JSON_THROW_ON_ERROR);
$other = array_keys(array_filter($found, static fn (string $hash, string $name): bool => ($kept[$name] ?? null) !== $hash, \ARRAY_FILTER_USE_BOTH));
$gone = array_keys(array_diff_key($kept, $found));
foreach ($other as $name) {
    printf("%s  %s\n", isset($kept[$name]) ? 'differs' : 'new    ', $name);
}
foreach ($gone as $name) {
    printf("gone     %s\n", $name);
}
printf("%d of %d answers are as recorded.\n", count($found) - count($other), count($kept));
exit([] === $other && [] === $gone ? 0 : 1);
