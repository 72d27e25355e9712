<?php

declare(strict_types=1);

namespace App\Tests\Api;

use PHPUnit\Framework\Attributes\DataProvider;
use Psr\Cache\CacheItemPoolInterface;

/** What matters, why this one, and what would change it: for every learner and each kind of target. */
final class ReasonsTest extends ApiTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
    }

    private function tried(int $study, string $learner, ?string $target = null): int
    {
        if (null !== $target) {
            $of = $this->call('GET', "/api/studies/$study");
            $this->call(
                'PUT',
                "/api/studies/$study/target",
                ['tableId' => $of['tableId'], 'column' => $target, 'task' => 'several classes', 'folds' => 2, 'repeats' => 1],
                200,
                ['If-Match' => (string) $of['version']],
            );
        }
        $variant = $this->call('GET', "/api/studies/$study/preparation")['variants'][0]['id'];
        $settings = ['boosting' => ['trees' => 30], 'forest' => ['trees' => 20]][$learner] ?? [];
        $trial = $this->call(
            'POST',
            "/api/studies/$study/trials",
            ['variantId' => $variant, 'learner' => $learner, 'settings' => $settings],
            202,
        )['subject'];
        $this->work();
        \assert(\is_int($trial));

        return $trial;
    }

    /** @return iterable<string, array{int, string, ?string}> */
    public static function models(): iterable
    {
        // Every learner accounts for its answers in EveryLearnerTest; here those that do it in ways of their own.
        foreach (['logistic', 'tree', 'boosting', 'rules'] as $learner) {
            yield "an event by $learner" => [1, $learner, null];
        }
        foreach (['linear', 'tree'] as $learner) {
            yield "a number by $learner" => [3, $learner, null];
        }
        foreach (['tree'] as $learner) {
            yield "several classes by $learner" => [3, $learner, 'job_type'];
        }
    }

    #[DataProvider('models')]
    public function testTheThreeQuestionsAreAnswered(int $study, string $learner, ?string $target): void
    {
        $trial = $this->tried($study, $learner, $target);
        // What matters.
        $this->call('POST', "/api/trials/$trial/matters", null, 202);
        $this->work();
        $matters = $this->call('GET', "/api/trials/$trial/matters");
        self::assertFalse($matters['pending']);
        self::assertNotSame([], $matters['columns']);
        self::assertEquals($matters, $this->call('GET', "/api/trials/$trial/matters"), 'the same again');
        foreach ($matters['columns'] as $line) {
            self::assertGreaterThanOrEqual(0.0, $line['moves']);
            self::assertNotSame('', $line['goes']);
        }
        $lines = array_column($matters['columns'], null, 'column');
        $effect = $this->call('GET', "/api/trials/$trial/effect?column=days_ahead&records=2,5");
        self::assertSame('number', $effect['kind']);
        self::assertCount(\count($effect['xs']), $effect['mean']);
        self::assertSame([2, 5], array_column($effect['named'], 'number'));
        self::assertSame(\count($effect['xs']), \count($effect['counts']));
        self::assertStringEndsWith('.', $effect['says']);
        $words = array_values(array_intersect(
            ['job_type', 'slot', 'district', 'boiler_class', 'tenure'],
            array_keys($lines),
        ))[0] ?? 'boiler_age';
        self::assertSame(
            'boiler_age' === $words ? 'number' : 'category',
            $this->call('GET', "/api/trials/$trial/effect?column=$words")['kind'],
        );
        $map = $this->call('GET', "/api/trials/$trial/effect/two?x=days_ahead&y=$words");
        self::assertSame([\count($map['across']), \count($map['up'])], [\count($map['mean']), \count($map['mean'][0])]);
        // Why this one.
        $why = $this->call('GET', "/api/trials/$trial/reasons/7");
        $account = $why['account'];
        self::assertNotNull($account);
        self::assertEqualsWithDelta(
            $account['answer'] - $account['base'],
            array_sum(array_column($account['columns'], 'effect')),
            1e-9,
            'adds up',
        );
        self::assertEqualsWithDelta(
            $why['answer'] ?? (null === $why['class'] ? $why['chance'] : $account['answer']),
            $account['answer'],
            1e-9,
            'to the answer that is told',
        );
        $sums = \in_array($learner, ['tree', 'forest', 'boosting'], true) && ('boosting' !== $learner || null === $why['class']);
        $exactly = [0 === $account['orders'], 0.0 === (float) $account['error']];
        self::assertSame([$sums, $sums], $exactly, 'trees that add up are shared out exactly');
        self::assertSame('boosting' === $learner && 1 === $study ? 'log-odds' : null, $account['scale']);
        if (null !== $account['scale']) {
            $sum = $account['ownBase'] + array_sum(array_column($account['columns'], 'own'));
            self::assertEqualsWithDelta($account['answer'], 1 / (1 + exp(-$sum)), 1e-9);
        }
        foreach ($why['made'] as $cell) {
            self::assertNotSame($why['record'][$cell['column']] ?? 'made', $cell['value'], 'what came as it is read is not told twice');
            self::assertSame([], array_diff($cell['from'], array_keys($why['record'])), 'told of columns as they came');
        }
        self::assertTrue($why['likeness'] >= 0 && $why['likeness'] <= 1);
        self::assertSame(50, $why['neighbors']['records']);
        self::assertNotNull($why['sure']);
        self::assertSame(
            [3 === $study && null === $target, null !== $target, 1 === $study],
            [null !== $why['sure']['most'], null !== $why['sure']['classes'], null !== $why['sure']['share']],
        );
        $local = $this->call('GET', "/api/trials/$trial/reasons/7/local");
        self::assertLessThanOrEqual(5, \count($local['terms']));
        // What would change it.
        $input = static fn (array $view, string $column): array => array_column($view['inputs'], null, 'column')[$column] ?? self::fail($column);
        $as = $this->call('POST', "/api/trials/$trial/reasons/7/imagine", ['changes' => []]);
        self::assertEquals($as['before'], $as['after']);
        $days = $input($as, 'days_ahead');
        self::assertEquals($days['then'], $days['now']);
        $to = (string) $days['xs'][0];
        $changed = $this->call('POST', "/api/trials/$trial/reasons/7/imagine", ['changes' => ['days_ahead' => $to]]);
        self::assertSame([$to, $days['value']], [$input($changed, 'days_ahead')['value'], $input($changed, 'days_ahead')['before']]);
        if (null === $changed['class'] || $changed['class'] === $as['class']) {
            self::assertEqualsWithDelta(
                $input($as, 'days_ahead')['now'][0],
                $input($changed, 'days_ahead')['now'][0],
                1e-12,
                'the curve of a column does not depend on where it stands',
            );
        }
        $before = (float) $as['before']['value'];
        $want = null !== $target ? ['other' => true] : (3 === $study ? ['low' => $before + 0.5] : ['high' => 0.97 * $before]);
        $reach = $this->call(
            'POST',
            "/api/trials/$trial/reasons/7/reach",
            $want + ['likely' => 0, 'free' => [['column' => 'days_ahead'], ['column' => $words]]],
        );
        self::assertTrue([] !== $reach['found'] || null !== $reach['nearest']);
        foreach ($reach['found'] as $one) {
            self::assertSame([], array_diff(array_column($one['changes'], 'column'), ['days_ahead', $words]));
            // Put into what-if, it is the answer that was told.
            $again = $this->call(
                'POST',
                "/api/trials/$trial/reasons/7/imagine",
                ['changes' => array_column($one['changes'], 'to', 'column')],
            )['after'];
            self::assertEqualsWithDelta($one['answer']['value'], $again['value'], 1e-9);
            self::assertTrue(match (true) {
                null !== $target => $again['class'] !== $as['before']['class'],
                3 === $study => $again['value'] >= $before + 0.5,
                default => $again['value'] <= 0.97 * $before,
            });
        }
        $standIns = $this->call('GET', "/api/trials/$trial/stand-ins");
        foreach ($standIns as $one) {
            self::assertTrue(null === $one['follows'] || $one['follows'] <= 1.0);
            self::assertNotSame([], $one['sentences']);
        }
        self::assertArrayHasKey('days_ahead', $lines);
    }

    public function testARecordFromScratchIsTypicalAndABatchIsExplained(): void
    {
        $trial = $this->tried(1, 'logistic');
        $scratch = $this->call('POST', "/api/trials/$trial/reasons/0/imagine", ['changes' => []]);
        self::assertGreaterThan(0.5, $scratch['before']['likeness'], 'a typical record is a likely one');
        $table = $this->call('GET', '/api/studies/1')['tableId'];
        $scoring = $this->call(
            'POST',
            '/api/studies/1/scorings',
            ['trialId' => $trial, 'tableId' => $table, 'cutoff' => 0.2],
            202,
        )['subject'];
        $this->work();
        $own = $this->call('GET', "/api/trials/$trial/reasons/3");
        $batch = $this->call('GET', "/api/scorings/$scoring/reasons/3");
        self::assertEquals($own['account'], $batch['account']);
        $imagined = $this->call('POST', "/api/scorings/$scoring/reasons/3/imagine", ['changes' => ['days_ahead' => '1']]);
        self::assertEqualsWithDelta($own['chance'], $imagined['before']['value'], 1e-12);
        self::assertNotEquals($imagined['before']['value'], $imagined['after']['value']);
        $this->call('POST', "/api/scorings/$scoring/reasons/3/reach", ['high' => 0.01, 'free' => [['column' => 'days_ahead']]]);
        $this->call('POST', "/api/trials/$trial/matters", null, 202);
        $this->work();
        $pairs = $this->call('GET', "/api/trials/$trial/pairs");
        self::assertNotSame([], $pairs);
        foreach ($pairs as $pair) {
            self::assertTrue($pair['h'] >= 0 && $pair['h'] <= 1 && $pair['beyond'] >= 0);
        }
    }

    /** @return iterable<string, array{int, string, ?string, list<string>}> */
    public static function lists(): iterable
    {
        yield 'an event' => [1, 'tree', null, ['_came_among_similar', '_came_low', '_came_high']];
        yield 'a number' => [3, 'linear', null, ['_low_80', '_high_80', '_low_95', '_high_95']];
        yield 'several classes' => [3, 'tree', 'job_type', ['_set_90']];
    }

    /** @param list<string> $heads */
    #[DataProvider('lists')]
    public function testAScoredListSaysHowSureOnRequest(int $study, string $learner, ?string $target, array $heads): void
    {
        $trial = $this->tried($study, $learner, $target);
        $table = $this->call('GET', "/api/studies/$study")['tableId'];
        $scoring = $this->call(
            'POST',
            "/api/studies/$study/scorings",
            ['trialId' => $trial, 'tableId' => $table, 'cutoff' => 0.3],
            202,
        )['subject'];
        $this->work();
        $read = function (string $query) use ($scoring): array {
            $this->client->request('GET', "/api/scorings/$scoring/file?$query");

            return array_map(
                static fn (string $l): array => str_getcsv($l, escape: ''),
                explode("\r\n", trim((string) $this->client->getInternalResponse()->getContent())),
            );
        };
        $plain = $read('full=1');
        $sure = $read('full=1&sure=1');
        self::assertCount(\count($plain), $sure);
        $own = array_values(array_filter(
            $sure[0],
            static fn (?string $h): bool => [] !== array_filter($heads, static fn (string $e): bool => str_ends_with((string) $h, $e)),
        ));
        self::assertCount(\count($heads), $own);
        self::assertSame($plain[0], array_values(array_diff($sure[0], $own)));
        // The list says of a record what its page says.
        $page = $this->call('GET', "/api/scorings/$scoring/reasons/1")['sure'];
        $line = array_combine(array_map(strval(...), $sure[0]), $sure[1]);
        $told = match ($heads[0]) {
            '_came_among_similar' => [$page['share']['value'], $page['share']['low'], $page['share']['high']],
            '_low_80' => [$page['most']['low'], $page['most']['high'], $page['nearly']['low'], $page['nearly']['high']],
            default => [implode(' | ', $page['classes'] ?? [])],
        };
        foreach ($own as $k => $head) {
            '_set_90' === $heads[0] ? self::assertSame($told[$k], $line[$head]) : self::assertEqualsWithDelta(
                (float) $told[$k],
                (float) $line[$head],
                1e-9,
            );
        }
    }

    public function testWhatIsUnderWayIsNotBegunAgainButAnotherClassIs(): void
    {
        $trial = $this->tried(3, 'multinomial', 'job_type');
        // Another test may have had the very same model looked at: what it found is kept by what the model is.
        $kept = static::getContainer()->get('cache.app');
        \assert($kept instanceof CacheItemPoolInterface);
        $kept->clear();
        $classes = $this->call('GET', "/api/trials/$trial/matters")['classes'];
        $ask = fn (string $class): mixed => $this->call('POST', "/api/trials/$trial/matters?class=".urlencode($class), null, 202)['id'];
        $first = $ask($classes[0]);
        self::assertSame($first, $ask($classes[0]));
        self::assertNotSame($first, $ask($classes[1]));
        $of = fn (string $class): array => $this->call('GET', "/api/trials/$trial/matters?class=".urlencode($class));
        self::assertSame($first, $of($classes[0])['jobId']);
        $this->work();
        self::assertSame([false, false], [$of($classes[0])['pending'], $of($classes[1])['pending']]);
    }

    /** @return iterable<string, array{int, string, ?string, bool}> study, learner, target, whether there are several classes */
    public static function shuffles(): iterable
    {
        yield 'an event, by a tree' => [1, 'tree', null, false];
        yield 'several classes, by a tree' => [3, 'tree', 'job_type', true];
        yield 'a number, by a tree' => [3, 'tree', null, false];
    }

    #[DataProvider('shuffles')]
    public function testColumnsAreShuffledOnceMoreAndPairsHeldAgainstChance(
        int $study,
        string $learner,
        ?string $target,
        bool $classes,
    ): void {
        $trial = $this->tried($study, $learner, $target);
        $path = "/api/trials/$trial";
        $before = $this->call('GET', "$path/shuffled");
        self::assertSame([true, null, 1, []], [$before['pending'], $before['jobId'], $before['repeats'], $before['columns']]);
        $job = $this->call('POST', "$path/shuffled", null, 202)['id'];
        self::assertSame($job, $this->call('POST', "$path/shuffled", null, 202)['id'], 'it is begun once');
        self::assertSame($job, $this->call('GET', "$path/shuffled")['jobId']);
        $this->work();
        $own = $this->call('GET', "$path/shuffled");
        self::assertSame([false, null], [$own['pending'], $own['jobId']]);
        self::assertNotSame([], $own['columns']);
        // By the figure that ranks, once: what the trial's own page says, where all of its rounds are the first one.
        if (null !== $target) {
            $leaning = array_column($this->call('GET', "$path/judgment")['sections'], null, 'kind')['leaning']['columns'];
            self::assertEqualsWithDelta(array_column($leaning, 'value', 'column'), array_intersect_key(
                array_column($own['columns'], 'value', 'column'),
                array_column($leaning, 'value', 'column'),
            ), 1e-12);
        }
        $other = $own['figures'][1]['key'];
        $this->call('POST', "$path/shuffled?by=$other&repeats=3", null, 202);
        $this->work();
        $by = $this->call('GET', "$path/shuffled?by=$other&repeats=3");
        self::assertSame([$other, 3, false], [$by['measure']['key'], $by['repeats'], $by['pending']]);
        self::assertNotEquals(array_column($own['columns'], 'value', 'column'), array_column($by['columns'], 'value', 'column'));
        foreach ($by['groups'] as $group) {
            self::assertGreaterThan(1, \count($group['columns']));
            self::assertEqualsWithDelta($group['value'], ($group['low'] + $group['high']) / 2, 1e-9);
        }
        foreach (['by=luck' => 'luck', 'repeats=0' => '1 to 20 times', 'repeats=21' => '1 to 20 times'] as $query => $says) {
            self::assertStringContainsString($says, $this->call('POST', "$path/shuffled?$query", null, 422)['title']);
        }

        $asked = !$classes ? '' : '?class='.urlencode($this->call('GET', "$path/matters")['classes'][1]);
        $clear = $this->call('GET', "$path/pairs/clear$asked");
        self::assertSame([null, 19, true, null], [$clear['most'], $clear['draws'], $clear['pending'], $clear['jobId']]);
        $this->call('POST', "$path/matters$asked", null, 202);
        $this->work();
        $job = $this->call('POST', "$path/pairs/clear$asked", null, 202)['id'];
        $this->work();
        self::assertSame(
            ['done', null],
            array_values(array_intersect_key($this->call('GET', "/api/jobs/$job"), ['state' => 1, 'message' => 1])),
        );
        $clear = $this->call('GET', "$path/pairs/clear$asked");
        self::assertSame([false, null], [$clear['pending'], $clear['jobId']]);
        self::assertGreaterThan(0.0, $clear['most']);
        foreach ($clear['pairs'] as $pair) {
            self::assertGreaterThan($clear['most'], $pair['beyond']);
        }
    }

    public function testRulesAndRecordsOfALeafAreTakenElsewhere(): void
    {
        $rules = $this->tried(1, 'rules');
        foreach (['text' => 'text/plain', 'csv' => 'text/csv', 'sql' => 'text/plain'] as $as => $type) {
            $this->client->request('GET', "/api/trials/$rules/rules/file?as=$as");
            self::assertResponseIsSuccessful();
            self::assertStringContainsString($type, (string) $this->client->getResponse()->headers->get('Content-Type'));
        }
        self::assertMatchesRegularExpression(
            '/^CASE\n  WHEN .* THEN [\d.]+\n.*END AS "return_visit"\n$/s',
            (string) $this->client->getResponse()->getContent(),
        );
        $this->call('GET', "/api/trials/$rules/rules/file?as=poem", null, 422);
        $this->call('GET', "/api/trials/$rules/tree/leaf?node=1", null, 404);
        $tree = $this->tried(1, 'tree');
        $this->call('GET', "/api/trials/$tree/rules/file", null, 404);
        $leaves = $this->call('GET', "/api/trials/$tree/tree")['tree']['leaves'];
        $seen = [];
        foreach ($leaves as $leaf) {
            $records = $this->call('GET', "/api/trials/$tree/tree/leaf?node={$leaf['node']}");
            self::assertSame($records['total'], \count($records['numbers']));
            array_push($seen, ...$records['numbers']);
            // What a record's page says of its path is the leaf's sentence.
            if ([] !== $records['numbers']) {
                self::assertSame($leaf['says'], $this->call('GET', "/api/trials/$tree/reasons/".$records['numbers'][0])['path']);
            }
        }
        $study = $this->call('GET', '/api/studies/1');
        self::assertCount($study['openRows'], $seen, 'every open record ends in one leaf');
        self::assertCount($study['openRows'], array_unique($seen));
        self::assertSame(0, $this->call('GET', "/api/trials/$tree/tree/leaf?node=9999")['total']);
    }

    public function testWhatFollowsOthersChangesWithThem(): void
    {
        $trial = $this->tried(1, 'logistic');
        $path = "/api/trials/$trial/reasons/3/reach";
        $follows = ['column' => 'quoted_cost', 'formula' => '20 + 3 * travel_km'];
        $ask = ['low' => 0.02, 'high' => 0.9, 'likely' => 0, 'free' => [['column' => 'travel_km']], 'follows' => [$follows]];
        $from = $this->call('POST', $path, $ask)['begins']['value'];
        $found = $this->call('POST', $path, ['low' => $from + 0.002] + $ask)['found'] ?: $this->call(
            'POST',
            $path,
            ['high' => $from - 0.002] + $ask,
        )['found'];
        self::assertNotSame([], $found);
        foreach ($found as $one) {
            $to = array_column($one['changes'], 'to', 'column');
            self::assertEqualsWithDelta(20 + 3 * (float) $to['travel_km'], (float) $to['quoted_cost'], 1e-6);
            self::assertSame(['travel_km' => false, 'quoted_cost' => true], array_column($one['changes'], 'follows', 'column'));
            // Taken up, it answers as it was said to.
            $after = $this->call('POST', "/api/trials/$trial/reasons/3/imagine", ['changes' => $to])['after'];
            self::assertEqualsWithDelta($one['answer']['value'], $after['value'], 1e-9);
        }
        foreach ([
            [['column' => 'travel_km', 'formula' => '1'], 'travel_km is free to change'],
            [['column' => 'quoted_cost', 'formula' => 'travel_kn'], 'did you mean travel_km?'],
            [['column' => 'quoted_cost', 'formula' => ' '], 'Write a formula'],
            [['column' => 'luck', 'formula' => '1'], 'luck is no number'],
        ] as [$wrong, $says]) {
            self::assertStringContainsString($says, $this->call('POST', $path, ['follows' => [$wrong]] + $ask, 422)['title']);
        }
    }

    public function testATextIsExplainedByItsWords(): void
    {
        $variants = $this->call('GET', '/api/studies/1/preparation')['variants'];
        $step = ['step' => 'text_terms', 'column' => 'booking_note', 'most' => 8, 'least' => 0.02];
        $made = $this->call('POST', '/api/studies/1/variants', ['name' => 'Words', 'copyFrom' => $variants[0]['id']], 201);
        $steps = array_map(static fn (array $s): array => ['step' => $s['step']] + $s['settings'], $made['steps']);
        $this->call('PUT', "/api/variants/{$made['id']}", ['steps' => [...$steps, $step]], 200, ['If-Match' => (string) $made['version']]);
        $asked = ['variantId' => $made['id'], 'learner' => 'logistic'];
        $trial = $this->call('POST', '/api/studies/1/trials', $asked, 202)['subject'];
        $this->work();
        $words = $this->call('GET', "/api/trials/$trial/effect/words?column=booking_note")['words'];
        self::assertNotSame([], $words);
        $sizes = $sorted = array_map(abs(...), array_column($words, 'moves'));
        rsort($sorted);
        self::assertSame($sorted, $sizes, 'what moves most comes first');
        foreach ($words as $word) {
            self::assertStringStartsWith('booking_note', $word['word']);
            self::assertEqualsWithDelta($word['with'] - $word['without'], $word['moves'], 1e-9);
        }
        self::assertSame([], $this->call('GET', "/api/trials/$trial/effect/words?column=slot")['words']);
        $this->call('GET', "/api/trials/$trial/effect/words?column=luck", null, 422);
        $this->call('GET', "/api/trials/$trial/effect?column=booking_note", null, 422);
    }

    public function testAStandInIsReadAsATreeAndSaysWhereItDiffers(): void
    {
        $trial = $this->tried(1, 'logistic');
        $standIns = $this->call('GET', "/api/trials/$trial/stand-ins");
        self::assertSame([0, 1, 2, null, null, null], array_column($standIns, 'tree'));
        foreach ($standIns as $k => $one) {
            self::assertCount(5, $one['differs']);
            $apart = array_map(static fn (array $d): float => abs($d['model'] - $d['standIn']), $one['differs']);
            self::assertSame(max(0.0, ...$apart), $apart[0], 'most first');
            // What the model says there is what the record's page says.
            $page = $this->call('GET', "/api/trials/$trial/reasons/".$one['differs'][0]['number']);
            self::assertEqualsWithDelta($page['chance'], $one['differs'][0]['model'], 1e-9);
            if (null !== $one['tree']) {
                $tree = $this->call('GET', "/api/trials/$trial/stand-ins/tree?size={$one['tree']}");
                self::assertSame(['number', null], [$tree['task'], $tree['event']]);
                self::assertStringStartsWith($tree['tree']['leaves'][0]['says'], $one['sentences'][0]);
                self::assertCount(\count($one['sentences']), $tree['tree']['leaves']);
            } else {
                self::assertGreaterThan(0, \count($one['sentences']), "sum $k");
            }
        }
        self::assertLessThan(\count($standIns[5]['sentences']), \count($standIns[3]['sentences']), 'three sizes of sums');
        $this->call('GET', "/api/trials/$trial/stand-ins/tree?size=3", null, 404);
        $this->call('GET', "/api/trials/$trial/stand-ins/tree?size=-1", null, 404);
    }

    public function testPairsAreHeldAgainstChanceOnlyOnceTheyAreKnown(): void
    {
        $trial = $this->tried(1, 'logistic');
        $kept = static::getContainer()->get('cache.app');
        \assert($kept instanceof CacheItemPoolInterface);
        $kept->clear();
        self::assertStringContainsString(
            'has not been looked at',
            $this->call('POST', "/api/trials/$trial/pairs/clear", null, 409)['title'],
        );
    }

    public function testTheSingleChangeThatHelpsMostOfAList(): void
    {
        $trial = $this->tried(1, 'logistic');
        $table = $this->call('GET', '/api/studies/1')['tableId'];
        $asked = ['trialId' => $trial, 'tableId' => $table, 'cutoff' => 0.2];
        $scoring = $this->call('POST', '/api/studies/1/scorings', $asked, 202)['subject'];
        $this->work();
        $path = "/api/scorings/$scoring";
        $all = $this->call('POST', "$path/group", ['high' => 0.2])['columns'];
        $fixed = array_values(array_diff($all, ['days_ahead', 'reminder_sent']));
        self::assertNotContains('notes', $all);
        $group = $this->call('POST', "$path/group", ['high' => 0.2, 'fixed' => $fixed]);
        self::assertSame([], array_diff(array_column($group['changes'], 'column'), ['days_ahead', 'reminder_sent']));
        $called = $this->call('GET', $path)['called'];
        self::assertSame([min(200, $called), 0], [$group['records'], $group['reach']], 'those called lie above the cut-off');
        $best = $group['changes'][0];
        self::assertGreaterThanOrEqual($group['changes'][1]['reached'], $best['reached']);
        // Asked one by one it is so.
        $rows = $this->call('GET', "$path/rows?which=called&limit=200")['rows'];
        $reached = 0;
        foreach (\array_slice($rows, 0, 12) as $row) {
            $changes = ['changes' => [$best['column'] => $best['to']]];
            $after = $this->call('POST', "$path/reasons/".$row['number'].'/imagine', $changes)['after'];
            $reached += $after['value'] <= 0.2 ? 1 : 0;
        }
        self::assertLessThanOrEqual($best['reached'], $reached);
        self::assertSame('low', $this->call('POST', "$path/group", ['fixed' => ['days_ahead']], 422)['field']);
        $strange = ['high' => 0.2, 'fixed' => ['nothing']];
        self::assertSame('fixed', $this->call('POST', "$path/group", $strange, 422)['field']);
    }

    public function testATreeIsTakenElsewhere(): void
    {
        $trial = $this->tried(1, 'tree');
        $leaves = $this->call('GET', "/api/trials/$trial/tree")['tree']['leaves'];
        foreach (['text' => "\n", 'csv' => "\r\n", 'sql' => 'WHEN'] as $as => $each) {
            $this->client->request('GET', "/api/trials/$trial/tree/file?as=$as");
            $text = (string) $this->client->getResponse()->getContent();
            self::assertSame(\count($leaves) + ('csv' === $as ? 1 : 0), substr_count($text, $each), $as);
        }
        $this->call('GET', "/api/trials/$trial/tree/file?as=verse", null, 422);
        $this->call('GET', '/api/trials/'.$this->tried(1, 'logistic').'/tree/file', null, 404);
    }

    public function testAWholeListSaysWhy(): void
    {
        $trial = $this->tried(1, 'forest');
        $table = $this->call('GET', '/api/studies/1')['tableId'];
        $scoring = $this->call(
            'POST',
            '/api/studies/1/scorings',
            ['trialId' => $trial, 'tableId' => $table, 'cutoff' => 0.3],
            202,
        )['subject'];
        $this->call('POST', "/api/scorings/$scoring/because", null, 409);
        $this->work();
        self::assertSame(0, $this->call('GET', "/api/scorings/$scoring/because")['looked']);
        $this->call('POST', "/api/scorings/$scoring/because", null, 202);
        $this->work();
        $because = $this->call('GET', "/api/scorings/$scoring/because");
        $called = $this->call('GET', "/api/scorings/$scoring")['called'];
        self::assertSame(min(400, $called), $because['looked']);
        self::assertSame($because['looked'], array_sum(array_column($because['groups'], 'records')));
        // What the columns do to a group's answers leads from the same place to its mean answer.
        $base = array_map(
            static fn (array $g): float => $g['answer'] - array_sum(array_column($g['effects'], 'value')),
            $because['groups'],
        );
        self::assertEqualsWithDelta(array_fill(0, \count($base), $base[0]), $base, 0.01);
        $rows = $this->call('GET', "/api/scorings/$scoring/rows?which=called&limit=3")['rows'];
        foreach ($rows as $row) {
            self::assertMatchesRegularExpression('/points\)(; .*points\)){2}$/', $row['reasons']);
            // The strongest of the sentence is the strongest of the record's account.
            $first = $this->call('GET', "/api/scorings/$scoring/reasons/".$row['number'])['account']['columns'];
            $names = array_map(static fn (array $c): string => str_replace('_', ' ', $c['column']), \array_slice($first, 0, 3));
            self::assertTrue([] !== array_filter($names, static fn (string $n): bool => str_starts_with($row['reasons'], $n)));
        }
        $this->client->request('GET', "/api/scorings/$scoring/file");
        self::assertStringContainsString($rows[0]['reasons'], (string) $this->client->getInternalResponse()->getContent());
    }

    /** @return iterable<string, array{string, string, array<string, mixed>|null, int, ?string}> */
    public static function refused(): iterable
    {
        yield 'no such record' => ['GET', 'reasons/99999999', null, 404, null];
        yield 'no such column' => ['GET', 'effect?column=nothing', null, 422, 'column'];
        yield 'a text has no curve' => ['GET', 'effect?column=', null, 422, 'column'];
        yield 'records by name' => ['GET', 'effect?column=days_ahead&records=x', null, 422, 'records'];
        yield 'a column with itself' => ['GET', 'effect/two?x=job_type&y=job_type', null, 422, 'y'];
        yield 'a cell of no column' => ['POST', 'reasons/7/imagine', ['changes' => ['nothing' => '1']], 422, 'changes'];
        yield 'a word for a number' => ['POST', 'reasons/7/imagine', ['changes' => ['days_ahead' => 'soon']], 422, 'changes'];
        yield 'no wish' => ['POST', 'reasons/7/reach', ['free' => [['column' => 'job_type']]], 422, 'low'];
        yield 'a wish that cannot be' => [
            'POST',
            'reasons/7/reach',
            ['low' => 0.9, 'high' => 0.1, 'free' => [['column' => 'job_type']]],
            422,
            'low',
        ];
        yield 'a free column that is none' => ['POST', 'reasons/7/reach', ['low' => 0.9, 'free' => [['column' => 'nothing']]], 422, 'free'];
        yield 'a step below 0' => [
            'POST',
            'reasons/7/reach',
            ['low' => 0.9, 'free' => [['column' => 'job_type', 'step' => -1]]],
            422,
            null,
        ];
        yield 'likeness beyond 1' => ['POST', 'reasons/7/reach', ['low' => 0.9, 'likely' => 2], 422, 'likely'];
    }

    /** @param array<string, mixed>|null $body */
    #[DataProvider('refused')]
    public function testWhatCannotBeAskedIsSaid(string $method, string $path, ?array $body, int $status, ?string $field): void
    {
        $trial = $this->tried(1, 'tree');
        $said = $this->call($method, "/api/trials/$trial/$path", $body, $status);
        self::assertNotSame('', $said['title']);
        if (null !== $field) {
            self::assertSame($field, $said['field']);
        }
    }
}
