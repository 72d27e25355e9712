<?php

declare(strict_types=1);

/**
 * make answers: asks an installation of its own, filled with the demo, what the screens' tests are drawn from, cuts long lists down and
 * writes web/src/recorded.json. The same code writes the same file, but for times of the clock, which are set to one moment.
 */
require __DIR__.'/../vendor/autoload.php';
require __DIR__.'/hardship/Installation.php';

use Dokimos\Benchmarks\Installation;

const COLUMNS = ['visit_id', 'visit_date', 'days_ahead', 'job_type', 'boiler_age', 'reminder_sent', 'booking_note', 'outcome'];
/** How many of a list are kept, by the key of the list. */
const KEPT = [
    'records' => 7,
    'rows' => 3,
    'evidence' => 24,
    'leaves' => 40,
    'lowest' => 3,
    'highest' => 3,
    'terms' => 3,
    'dots' => 12,
    'pairs' => 28,
    'picked' => 6,
    'others' => 6,
];
const MOMENT = '2026-11-23T09:13:17+00:00';

$cut = static function (mixed $value, string $key = '') use (&$cut): mixed {
    if (is_array($value)) {
        return array_map(static fn (mixed $v): mixed => $cut($v), array_slice($value, 0, KEPT[$key] ?? 200));
    }
    if ($value instanceof stdClass) {
        $own = get_object_vars($value);

        // What a clock measured differs from one machine to the next.
        $few = static fn (mixed $v, string $k): mixed => is_float($v) && in_array($k, ['seconds', 'secondsLeft'], true) ? 2.5 : $cut($v, $k);

        return (object) array_combine(array_keys($own), array_map($few, $own, array_keys($own)));
    }
    if (is_float($value)) {
        return (float) sprintf('%.7g', $value);
    }

    return is_string($value) && preg_match('/^20\d\d-\d\d-\d\dT\d\d:\d\d:\d\d\+00:00$/', $value) ? MOMENT : $value;
};
$only = static function (array $columns, string $by = 'name'): array {
    return array_values(array_filter($columns, static fn (stdClass $c): bool => in_array($c->{$by}, COLUMNS, true)));
};

$i = new Installation(sys_get_temp_dir().'/dokimos-answers-'.getmypid(), dirname(__DIR__), 6000);
$answers = [];
$ask = static function (string $method, string $path, ?array $body = null) use ($i): mixed {
    [$status, , $text] = $i->ask($method, $path, $body);

    return 300 > $status ? json_decode($text, false, 64, \JSON_THROW_ON_ERROR) : throw new RuntimeException("$method $path: $status $text");
};
$keep = static function (string $key, mixed $answer = null) use (&$answers, $ask, $cut): void {
    $answers[$key] = $cut($answer ?? $ask(...explode(' ', $key, 2)));
};
$open = static fn (stdClass $j): bool => in_array($j->state, ['waiting', 'running'], true);
$rests = static fn (): bool => [] === array_filter($ask('GET', '/api/jobs'), $open);
$idle = static function () use ($i, $rests): void {
    // Work that ends may just have begun more work: it rests when it does so twice.
    for ($i->until($rests, 300); !$rests(); $i->until($rests, 300)) {
        usleep(300000);
    }
};
$try = static function (int $study, array $trial) use ($ask, $idle): int {
    $job = $ask('POST', "/api/studies/$study/trials", $trial);
    $idle();

    return $job->subject;
};
try {
    $i->start();
    $i->signIn();
    $keep('GET /api/jobs', []);
    $ask('POST', '/api/studies/2/scorings', ['trialId' => 1, 'tableId' => 5, 'cutoff' => 0.06]);
    $idle();
    foreach ([
        'session', 'setup', 'learners', 'studies/deleted', 'studies', 'studies/2', 'columns/84', 'studies/2/preparation',
        'studies/2/trials', 'trials/1/judgment', 'trials/1/reasons/3', 'studies/2/logbook', 'scorings/1', 'tables/5/pictures/apart',
        'tables/5/pictures/repeats', 'tables/5/pictures/missing', 'tables/5/pictures/lopsided', 'columns/100/more', 'columns/84/more',
        'studies/2/thresholds', 'studies/2/combinations', 'steps', 'trials/1/groups', 'studies/2/forecasts', 'studies/1/forecasts',
        'notices',
    ] as $path) {
        $keep("GET /api/$path");
    }
    $keep('GET /api/tables/5/pictures/together');
    $keep('GET /api/tables/5/pictures/two', $ask('GET', '/api/tables/5/pictures/two?x=visit_date&y=days_ahead'));
    $table = $ask('GET', '/api/tables/5');
    $keep('GET /api/tables/5', (object) (['columns' => $only($table->columns)] + get_object_vars($table)));
    $keep('GET /api/tables/5/rows', $ask('GET', '/api/tables/5/rows?limit=3'));
    $found = $ask('GET', '/api/tables/5/findings');
    $three = static fn (stdClass $f): bool => in_array([$f->sort, ...$f->columns], [
        ['missing', 'boiler_age'], ['all distinct', 'visit_id'], ['imbalance', 'outcome'],
    ], true);
    // A rule that held and one that did not.
    $first = static fn (bool $held): stdClass => array_values(array_filter(
        $found->rules,
        static fn (stdClass $r): bool => $held === $r->held,
    ))[0];
    $keep('GET /api/tables/5/findings', (object) ([
        'relations' => $only($found->relations, 'column'),
        'findings' => array_values(array_filter($found->findings, $three)),
        'rules' => [$first(true), $first(false)],
    ] + get_object_vars($found)));
    $keep('GET /api/trials/1/records', $ask('GET', '/api/trials/1/records?cell=fn&cutoff=0.06&limit=3'));
    $terms = [
        'cost' => 2.0,
        'works' => 0.4,
        'worksLow' => 0.3,
        'worksHigh' => 0.5,
        'worthColumn' => 'quoted_cost',
        'most' => 60,
        'share' => 0.2,
    ];
    $ask(
        'POST',
        '/api/scorings/1/decisions',
        ['name' => 'Calls', 'terms' => $terms + ['chanceEdges' => [0.06, 0.15], 'valueEdges' => [60, 120]]],
    );
    $keep('GET /api/scorings/1/decisions');
    $keep('GET /api/decisions/1');
    $keep('GET /api/decisions/1/rows', $ask('GET', '/api/decisions/1/rows?limit=3&carry[]=visit_id'));
    $keep('GET /api/studies/2/scorings');
    $keep('GET /api/studies/2/routines');
    $keep('GET /api/scorings/1/because');
    $keep('GET /api/scorings/1/rows', $ask('GET', '/api/scorings/1/rows?limit=3&carry[]=visit_id'));
    $keep('POST /api/studies/2/match', $ask('POST', '/api/studies/2/match', ['trialId' => 1, 'tableId' => 5]));
    $steps = $ask('GET', '/api/studies/2/preparation')->variants[0]->steps;
    $asked = array_map(static fn (stdClass $s): array => ['step' => $s->step, 'note' => $s->note] + get_object_vars($s->settings), $steps);
    $filled = [...$asked, ['step' => 'fill_missing', 'columns' => ['contact_channel'], 'method' => 'most frequent']];
    $keep('POST /api/variants/2/preview', $ask('POST', '/api/variants/2/preview', ['steps' => $filled, 'look' => 2]));
    $cutInto = [...$asked, ['step' => 'bins', 'columns' => ['days_ahead'], 'method' => 'own cut points', 'cuts' => [3, 9]]];
    $keep('bins', $ask('POST', '/api/variants/2/preview', ['steps' => $cutInto, 'look' => 2])->look->bins);
    $keep('event figures', $ask('GET', '/api/trials/1/judgment')->sections[0]);
    $keep('number', $ask('GET', '/api/trials/3/judgment'));
    $keep('number standings', $ask('GET', '/api/studies/3/trials'));
    $keep('number study', $ask('GET', '/api/studies/3'));
    $keep('worst', $ask('GET', '/api/trials/3/worst?limit=7'));
    $tree = $try(2, ['variantId' => 2, 'learner' => 'tree', 'settings' => ['leaf' => 400, 'depth' => 3]]);
    $keep('GET /api/trials/9/tree', (object) (['trialId' => 9] + get_object_vars($ask('GET', "/api/trials/$tree/tree"))));
    $boost = $try(2, ['variantId' => 2, 'learner' => 'boosting', 'settings' => ['trees' => 36]]);
    $keep('GET /api/trials/1/against', $ask('GET', "/api/trials/1/against?other=$boost"));
    // Of a curve every tenth point draws the same line.
    $thin = static function (stdClass $beside): stdClass {
        $tenth = static fn (array $points): array => array_values(array_filter(
            $points,
            static fn (int $k): bool => 0 === $k % 10,
            \ARRAY_FILTER_USE_KEY,
        ));
        $beside->xs = $tenth($beside->xs);
        [$beside->reached, $beside->less] = [array_map($tenth, $beside->reached), array_map($tenth, $beside->less)];

        return $beside;
    };
    $keep('GET /api/studies/2/trials/beside', $thin($ask('GET', "/api/studies/2/trials/beside?trials=1,$boost,$tree")));
    $keep('GET /api/studies/2/trials/beside/records', $ask('GET', "/api/studies/2/trials/beside/records?trials=1,$boost,$tree&limit=4"));
    $keep('two beside', $thin($ask('GET', "/api/studies/2/trials/beside?trials=1,$boost")));
    $keep('number beside', $thin($ask('GET', '/api/studies/3/trials/beside?trials=3,4')));
    $keep('GET /api/trials/1/picture', $ask('GET', '/api/trials/1/picture?cell=fn&cutoff=0.06'));
    $keep('GET /api/trials/3/picture', $ask('GET', '/api/trials/3/picture?low=20'));
    $keep('GET /api/trials/1/cutoff', $ask('GET', '/api/trials/1/cutoff?by=costs&miss=5&vain=1'));
    $sections = $ask('GET', "/api/trials/$boost/judgment")->sections;
    $keep('boost', array_values(array_filter($sections, static fn (stdClass $s): bool => 'trees' === $s->kind))[0]);
    $shown = static function (string $learner, string $kind, array $settings = []) use ($try, $ask): stdClass {
        $trial = $try(2, ['variantId' => 2, 'learner' => $learner, 'settings' => $settings, 'rows' => 2000]);
        $all = $ask('GET', "/api/trials/$trial/judgment")->sections;

        return array_values(array_filter($all, static fn (stdClass $s): bool => $kind === $s->kind))[0];
    };
    $keep('curves', $shown('additive', 'curves', ['bags' => 2, 'bins' => 8, 'pairs' => 1]));
    $keep('network', $shown('bayes-network', 'network', ['columns' => 6, 'levels' => 3]));
    $keep('evidence', $shown('naive-bayes', 'evidence'));
    $keep('neighbors', $shown('neighbors', 'neighbors'));
    $keep('epochs', $shown('neural-network', 'course', ['layers' => '4', 'epochs' => 12, 'find' => 'no']));
    $ask('POST', '/api/trials/1/matters');
    $ask('POST', '/api/trials/3/matters');
    $idle();
    $keep('GET /api/trials/1/matters');
    $keep('GET /api/trials/3/matters');
    $keep('GET /api/trials/1/pairs');
    $keep('GET /api/trials/1/stand-ins');
    $keep('GET /api/trials/1/reasons/3/local');
    $keep('GET /api/trials/1/effect', $ask('GET', '/api/trials/1/effect?column=days_ahead&records=3,8'));
    $keep('GET /api/trials/3/effect', $ask('GET', '/api/trials/3/effect?column=job_type'));
    $keep('GET /api/trials/1/effect/two', $ask('GET', '/api/trials/1/effect/two?x=days_ahead&y=slot'));
    $keep('POST /api/trials/1/reasons/3/imagine', $ask('POST', '/api/trials/1/reasons/3/imagine', ['changes' => ['days_ahead' => '2']]));
    $wish = ['high' => 0.03, 'likely' => 0.02, 'free' => [['column' => 'days_ahead'], ['column' => 'slot'], ['column' => 'reminder_sent']]];
    $keep('POST /api/trials/1/reasons/3/reach', $ask('POST', '/api/trials/1/reasons/3/reach', $wish));
    $keep('number reasons', $ask('GET', '/api/trials/3/reasons/3'));
    $keep('GET /api/trials/1/curve');
    $keep('GET /api/variants/2/offered');
    $keep('GET /api/studies/2/choices', [(object) ['id' => 1, 'name' => 'Few', 'names' => ['days_ahead', 'slot'], 'without' => false]]);
    $spaces = [['learner' => 'tree', 'settings' => ['depth' => ['list' => [2, 3, 5]], 'leaf' => ['list' => [20, 40, 80]]]]];
    $asked = ['spaces' => $spaces, 'variantIds' => [2]];
    $keep('POST /api/studies/2/searches/weigh', $ask('POST', '/api/studies/2/searches/weigh', $asked));
    $search = $ask('POST', '/api/studies/2/searches', $asked)->subject;
    $idle();
    $keep('GET /api/searches/1', $ask('GET', "/api/searches/$search"));
    $keep('GET /api/studies/2/searches');
    $keep('searched standings', $ask('GET', '/api/studies/2/trials'));
    $ask('POST', '/api/trials/1/curve');
    $idle();
    $keep('curve', $ask('GET', '/api/trials/1/curve'));
    foreach ($ask('GET', '/api/tables/5')->columns as $column) {
        if ('booking_note' === $column->name) {
            // Its words make every fit of a search slow, and say nothing more of the page.
            $i->ask('PATCH', "/api/columns/$column->id", ['use' => 'set aside'], 'mara', ['If-Match: '.$column->version]);
        }
    }
    $guided = $ask('POST', '/api/studies/2/guided', ['variantId' => 2, 'tries' => 6, 'without' => ['logistic', 'forest']])->subject;
    $idle();
    $keep('guided', $ask('GET', "/api/guided/$guided"));
    $study = $ask('GET', '/api/studies/3');
    $target = ['column' => 'job_type', 'task' => 'several classes', 'folds' => 2, 'repeats' => 1];
    $i->ask('PUT', '/api/studies/3/target', $target, 'mara', ['If-Match: '.$study->version]);
    $classes = $try(3, ['variantId' => 3, 'learner' => 'multinomial', 'settings' => ['penalty' => 'lasso', 'price' => 20]]);
    $keep('classes', $ask('GET', "/api/trials/$classes/judgment"));
    $rules = $try(3, ['variantId' => 3, 'learner' => 'rules', 'settings' => ['leaf' => 60]]);
    $keep('rules', $ask('GET', "/api/trials/$rules/judgment"));
} finally {
    $i->end();
}
$form = \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_THROW_ON_ERROR;
file_put_contents(__DIR__.'/../web/src/recorded.json', json_encode($answers, $form)."\n");
printf("%d answers are in web/src/recorded.json.\n", count($answers));
