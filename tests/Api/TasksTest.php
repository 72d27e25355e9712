<?php

declare(strict_types=1);

namespace App\Tests\Api;

use PHPUnit\Framework\Attributes\DataProvider;

/** Numbers and several classes from the target to the seal, and the ways of dividing rows. */
final class TasksTest extends ApiTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
    }

    /** @param array<string, mixed> $target */
    private function aims(array $target, int $expected = 200): mixed
    {
        $study = $this->study('Minutes on site');

        return $this->call(
            'PUT',
            '/api/studies/'.$study['id'].'/target',
            $target + ['tableId' => $study['tableId']],
            $expected,
            ['If-Match' => (string) $study['version']],
        );
    }

    /**
     * @param array<string, mixed> $settings
     *
     * @return array<string, mixed> its line of the Standings
     */
    private function tried(string $learner, array $settings = []): array
    {
        $id = $this->study('Minutes on site')['id'];
        $variant = $this->call('GET', '/api/studies/'.$id.'/preparation')['variants'][0]['id'];
        $trial = $this->call(
            'POST',
            '/api/studies/'.$id.'/trials',
            ['variantId' => $variant, 'learner' => $learner, 'settings' => $settings],
            202,
        )['subject'];
        $this->work();
        $line = array_column($this->call('GET', '/api/studies/'.$id.'/trials')['trials'], null, 'id')[$trial];
        \assert(\is_array($line));
        self::assertSame('done', $line['state'], (string) json_encode($line['failure']));

        return $line;
    }

    public function testANumberIsPredictedJudgedAndUnsealed(): void
    {
        $study = $this->study('Minutes on site');
        self::assertSame(['number', null, []], [$study['task'], $study['event'], $study['classes']]);
        $this->tellsAlone($study, 'number');
        $tree = $this->tried('tree', ['depth' => 4]);
        $standings = $this->call('GET', '/api/studies/'.$study['id'].'/trials');
        self::assertSame(['number', 'RMSE', false], [$standings['task'], $standings['measure']['name'], $standings['measure']['more']]);
        $values = array_column($standings['trials'], 'value');
        $sorted = $values;
        sort($sorted);
        self::assertSame($sorted, $values, 'the least error first');
        self::assertLessThan($standings['baseline'], $values[0]);
        self::assertCount(2, $standings['distances']);
        foreach ($standings['distances'] as $distance) {
            self::assertGreaterThanOrEqual(0.0, $distance['difference']);
            self::assertSame($distance['noise'], $distance['low'] <= 0.0);
        }
        $linear = array_column($standings['trials'], null, 'learner')['linear'];
        $view = $this->judged($linear['id']);
        $figures = $view['figures'];
        self::assertSame($figures['rows'], array_sum(array_column($figures['tenths'], 'rows')) + $figures['unanswered']);
        foreach (['rmse', 'mae', 'within50', 'within90', 'r2'] as $name) {
            self::assertTrue(
                $figures[$name]['low'] <= $figures[$name]['value'] && $figures[$name]['value'] <= $figures[$name]['high'],
                $name,
            );
        }
        self::assertEqualsWithDelta(0.0, $figures['baseline']['r2'], 1e-9);
        self::assertNull($view['coefficients'][1]['oddsRatio']);
        self::assertGreaterThan(0.99, $view['coefficients'][1]['vif']);
        $worst = $this->call('GET', '/api/trials/'.$linear['id'].'/worst?limit=5');
        self::assertCount(5, $worst['records']);
        self::assertEqualsWithDelta($worst['records'][0]['came'] - $worst['records'][0]['said'], $worst['records'][0]['off'], 1e-9);
        self::assertGreaterThanOrEqual(abs($worst['records'][1]['off']), abs($worst['records'][0]['off']));
        self::assertEquals(
            $worst['records'][0]['came'],
            (float) $worst['records'][0]['cells'][array_search('minutes_on_site', $worst['names'], true)],
        );
        $sealed = $this->judged($linear['id'], 'POST', 'seal')['figures']['sealed'];
        self::assertLessThan(1.4 * $figures['rmse']['value'], $sealed['rmse']['value']);
        $leaves = $this->call('GET', '/api/trials/'.$tree['id'].'/tree');
        self::assertSame(['number', null, 'minutes_on_site'], [$leaves['task'], $leaves['event'], $leaves['target']]);
        self::assertSame($leaves['tree']['rows'], array_sum(array_column($leaves['tree']['leaves'], 'rows')));
        self::assertEqualsWithDelta(
            $leaves['tree']['average'],
            array_sum(array_map(
                static fn (array $l): float => $l['rows'] * ($l['share'] ?? 0.0),
                $leaves['tree']['leaves'],
            )) / $leaves['tree']['rows'],
            1e-9,
        );
        self::assertStringContainsString(
            'where a study predicts an event; trial 3 predicts a number',
            $this->call('GET', '/api/trials/'.$tree['id'].'/records', null, 409)['title'],
        );
        $reasons = $this->call('GET', '/api/trials/'.$tree['id'].'/reasons/1');
        self::assertSame(['number', null], [$reasons['task'], $reasons['chance']]);
        self::assertNotSame('', $reasons['path']);
        $account = $this->call('GET', '/api/trials/'.$this->tried('linear')['id'].'/reasons/1');
        self::assertEqualsWithDelta(
            $account['answer'],
            $account['base'] + array_sum(array_column($account['contributions'], 'effect')),
            1e-6,
            'a regression accounts for its number',
        );
        [$batch, $rows, $file] = $this->scored((int) $study['id'], $tree['id'], (int) $study['tableId']);
        self::assertSame(['number', 'minutes_on_site', 1500, 0], [$batch['task'], $batch['target'], $batch['scored'], $batch['called']]);
        self::assertSame(1500, array_sum($batch['histogram']));
        self::assertSame($batch['highest'], $rows[0]['answer']);
        self::assertSame([null, null, []], [$rows[0]['chance'], $rows[0]['called'], $rows[0]['shares']]);
        self::assertSame('visit_id,minutes_on_site_predicted,because,status', $file[0]);
        self::assertStringStartsWith(\sprintf('V100001,%s,', (float) \sprintf('%.6G', $reasons['answer'])), $file[1]);
        $variant = $this->call('GET', '/api/studies/'.$study['id'].'/preparation')['variants'][0]['id'];
        self::assertStringContainsString(
            'a number',
            $this->call('POST', '/api/studies/'.$study['id'].'/trials', ['variantId' => $variant, 'learner' => 'logistic'], 409)['title'],
        );
    }

    /** @return array{array<string, mixed>, list<array<string, mixed>>, list<string>} the batch, its first records and the lines of its file */
    private function scored(int $study, mixed $trial, int $table): array
    {
        $this->call('POST', "/api/studies/$study/match", ['trialId' => $trial, 'tableId' => $table]);
        $batch = $this->call(
            'POST',
            "/api/studies/$study/scorings",
            ['trialId' => $trial, 'tableId' => $table, 'cutoff' => 0.5],
            202,
        )['subject'];
        $this->work();
        $this->client->request('GET', "/api/scorings/$batch/file?carry[]=visit_id");
        $file = preg_split('/\r?\n/', (string) $this->client->getInternalResponse()->getContent()) ?: [];
        $view = $this->call('GET', "/api/scorings/$batch");
        self::assertSame('done', $view['state']);

        return [$view, $this->call('GET', "/api/scorings/$batch/rows")['rows'], $file];
    }

    /**
     * What goes with the target is told of every kind, on unsealed records.
     *
     * @param array<string, mixed> $study
     */
    private function tellsAlone(array $study, string $task): void
    {
        $found = $this->call('GET', '/api/tables/'.$study['tableId'].'/findings');
        self::assertSame(
            [$task, null, true],
            [$found['task'], $found['event'], $found['judged'] > 0 && $found['judged'] <= $found['rows'] - $study['sealedRows']],
        );
        $ranked = array_values(array_filter($found['relations'], static fn (array $r): bool => null !== $r['alone'] && !$r['late']));
        self::assertGreaterThan(5, \count($ranked));
        $alone = $sorted = array_column($ranked, 'alone');
        rsort($sorted);
        self::assertSame($sorted, $alone);
        $speaking = array_filter($ranked, static fn (array $r): bool => $r['adjusted'] < 0.05);
        // In the demo nothing tells the sort of job; several columns tell how long it takes.
        self::assertSame('number' === $task, [] !== $speaking);
        self::assertCount(\count($speaking), array_filter($ranked, static fn (array $r): bool => '' !== $r['says']));
        self::assertNotContains($study['target'], array_column($found['relations'], 'column'));
        foreach ($found['rules'] as $rule) {
            self::assertSame('number' === $task, null === $rule['of']);
            self::assertSame('number' === $task, null === $rule['lift']);
        }
    }

    public function testSeveralClassesAreToldApart(): void
    {
        $study = $this->aims(['column' => 'job_type', 'task' => 'several classes', 'folds' => 2, 'repeats' => 1]);
        self::assertGreaterThan(2, \count($study['classes']));
        self::assertSame(
            [true, true],
            array_map(static fn (array $t) => $t['stale'], $study['trials']),
            'trials of another target are stale',
        );
        foreach (['worst', 'groups', 'against?other='.$study['trials'][1]['id']] as $path) {
            self::assertStringContainsString(
                'has changed since trial',
                $this->call('GET', '/api/trials/'.$study['trials'][0]['id'].'/'.$path, null, 409)['title'],
                'its answers are minutes',
            );
        }
        $this->tellsAlone($study, 'several classes');
        $base = $this->tried('baseline');
        $line = $this->tried('multinomial');
        $standings = $this->call('GET', '/api/studies/'.$study['id'].'/trials');
        self::assertSame(['log loss', false], [$standings['measure']['name'], $standings['measure']['more']]);
        self::assertSame(min($line['value'], $base['value']), $standings['trials'][0]['value'], 'the least surprise first');
        self::assertEqualsWithDelta($base['value'], $standings['baseline'], 0.02);
        $view = $this->judged($line['id']);
        $figures = $view['figures'];
        self::assertSame($figures['rows'] - $figures['unanswered'], array_sum(array_map(array_sum(...), $figures['confusion'])));
        self::assertSame($study['classes'], array_column($figures['classes'], 'name'));
        self::assertSame(\array_slice($study['classes'], 1), array_values(array_unique(array_column($view['coefficients'], 'class'))));
        $worst = $this->call('GET', '/api/trials/'.$line['id'].'/worst?limit=3')['records'];
        self::assertNotSame($worst[0]['saidClass'], $worst[0]['cameClass']);
        self::assertLessThan(0.2, $worst[0]['off']);
        foreach ($study['classes'] as $i => $came) {
            foreach ($study['classes'] as $j => $named) {
                $cell = $this->call(
                    'GET',
                    '/api/trials/'.$line['id'].'/worst?limit=3&came='.rawurlencode($came).'&named='.rawurlencode($named),
                );
                self::assertSame($figures['confusion'][$i][$j], $cell['total'], "the rows of $came named $named");
                foreach ($cell['records'] as $record) {
                    self::assertSame([$came, $named], [$record['cameClass'], $record['saidClass']]);
                }
            }
        }
        self::assertStringContainsString(
            'none of the classes',
            $this->call('GET', '/api/trials/'.$line['id'].'/worst?came=moon', null, 422)['title'],
        );
        self::assertNotNull($this->judged($line['id'], 'POST', 'seal')['figures']['sealed']['logLoss']);
        [$batch, $rows, $file] = $this->scored((int) $study['id'], $line['id'], (int) $study['tableId']);
        self::assertSame($batch['scored'], array_sum(array_column($batch['classes'], 'records')));
        self::assertSame($study['classes'], array_column($batch['classes'], 'name'));
        self::assertEqualsWithDelta(1.0, array_sum($rows[0]['shares']), 1e-9);
        self::assertEqualsWithDelta($rows[0]['chance'], max(0.0, ...$rows[0]['shares']), 0.0);
        self::assertEqualsWithDelta(
            $rows[0]['chance'],
            $rows[0]['shares'][(int) array_search($rows[0]['class'], $study['classes'], true)],
            0.0,
        );
        self::assertStringStartsWith('visit_id,job_type_predicted,job_type_chance_', $file[0]);
        $one = $batch['classes'][0];
        $narrowed = $this->call('GET', '/api/scorings/'.$batch['id'].'/rows?limit=200&class='.rawurlencode($one['name']));
        self::assertSame(
            [$one['records'], [$one['name']]],
            [$narrowed['total'], array_values(array_unique(array_column($narrowed['rows'], 'class')))],
        );
    }

    public function testRulesAreReadOnRowsThatDidNotGrowThem(): void
    {
        $this->aims(['column' => 'return_visit', 'event' => 'yes', 'folds' => 2, 'repeats' => 1]);
        $view = $this->judged($this->tried('rules', ['leaf' => 25])['id']);
        self::assertGreaterThan(1, \count($view['rules']));
        self::assertSame('every other record', $view['rules'][\count($view['rules']) - 1]['says']);
        self::assertSame(240, array_sum(array_column($view['rules'], 'rows')), 'a fifth of 1,200 open rows');
    }

    /** @return iterable<string, array{array<string, mixed>, callable(array<string, mixed>): bool}> */
    public static function divisions(): iterable
    {
        yield 'by group' => [
            ['way' => 'group', 'by' => 'household_id', 'folds' => 2, 'repeats' => 1],
            static fn (array $s) => 2 === $s['plan']['folds'],
        ];
        yield 'by time' => [['way' => 'time', 'by' => 'visit_date', 'folds' => 3], static fn (array $s) => 1 === $s['plan']['repeats']];
        yield 'by marker' => [
            ['way' => 'marker', 'by' => 'tenure', 'validation' => 'owner'],
            static fn (array $s) => 1 === $s['plan']['folds'] && 0 === $s['sealedRows'],
        ];
    }

    /**
     * @param array<string, mixed>                 $division
     * @param callable(array<string, mixed>): bool $holds
     */
    #[DataProvider('divisions')]
    public function testRowsAreDividedAsAsked(array $division, callable $holds): void
    {
        $columns = array_column($this->call('GET', '/api/tables/'.$this->study('Minutes on site')['tableId'])['columns'], null, 'name');
        if (!isset($columns[$division['by']])) {
            self::fail('Columns are '.implode(', ', array_keys($columns)));
        }
        if ('marker' === $division['way']) {
            $division['validation'] = $columns[$division['by']]['top'][0]['value'];
        }
        $study = $this->aims(['column' => 'minutes_on_site', 'task' => 'number'] + $division);
        self::assertTrue($holds($study), (string) json_encode($study['plan']));
        self::assertSame($division['by'], $study['plan']['column']);
        $line = $this->tried('tree', ['depth' => 3]);
        self::assertCount($study['plan']['folds'] * $study['plan']['repeats'], $line['each']);
    }

    /** @return iterable<string, array{array<string, mixed>, string, string}> */
    private static function refused(): iterable
    {
        yield 'a category as a number' => [['column' => 'job_type', 'task' => 'number'], 'column', 'column of numbers'];
        yield 'a number as classes' => [['column' => 'minutes_on_site', 'task' => 'several classes'], 'column', 'have to be a category'];
        yield 'two classes as several' => [['column' => 'return_visit', 'task' => 'several classes'], 'column', '3 to 50'];
        yield 'no event' => [['column' => 'return_visit'], 'event', 'counts as the event'];
        yield 'another task' => [['column' => 'return_visit', 'task' => 'rank'], 'task', 'one of two classes'];
        yield 'no column that divides' => [
            ['column' => 'minutes_on_site', 'task' => 'number', 'way' => 'group'],
            'by',
            'Choose the column',
        ];
        yield 'a category as time' => [
            ['column' => 'minutes_on_site', 'task' => 'number', 'way' => 'time', 'by' => 'job_type'],
            'by',
            'date or a number',
        ];
        yield 'the target divides' => [
            ['column' => 'minutes_on_site', 'task' => 'number', 'way' => 'time', 'by' => 'minutes_on_site'],
            'by',
            'cannot divide',
        ];
        yield 'a marker without a value' => [
            ['column' => 'minutes_on_site', 'task' => 'number', 'way' => 'marker', 'by' => 'job_type'],
            'way',
            'which of its values',
        ];
        yield 'a marker that marks nothing' => [
            ['column' => 'minutes_on_site', 'task' => 'number', 'way' => 'marker', 'by' => 'job_type', 'validation' => 'no such'],
            'by',
            'would have no rows',
        ];
        yield 'an unknown way' => [
            ['column' => 'minutes_on_site', 'task' => 'number', 'way' => 'moon', 'by' => 'job_type'],
            'way',
            'by chance, by group',
        ];
    }

    public function testWhatCannotBePredictedIsSaid(): void
    {
        foreach (self::refused() as $what => [$target, $field, $says]) {
            $problem = json_encode($this->aims($target, 422), \JSON_THROW_ON_ERROR);
            self::assertStringContainsString($says, $problem, $what);
            self::assertStringContainsString('"'.$field.'"', $problem, $what);
        }
        self::assertSame('number', $this->study('Minutes on site')['task'], 'nothing was changed');
    }
}
