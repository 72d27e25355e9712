<?php

declare(strict_types=1);

namespace App\Tests\Api;

use Dokimos\Core\Learn\TakesTime;
use PHPUnit\Framework\Attributes\DataProvider;

/** Register, preparation, trials and judgment, as their pages ask for them. */
final class StationsTest extends ApiTestCase
{
    public function testEveryColumnOfTheRegisterOpensWithPartsThatHoldEveryRecord(): void
    {
        $this->signIn();
        $register = $this->call('GET', '/api/tables/1');
        self::assertCount(25, $register['columns']);
        foreach ($register['columns'] as $column) {
            $detail = $this->call('GET', '/api/columns/'.$column['id']);
            $present = $register['rows'] - $column['missing'] - $column['sealed'];
            if ('text' !== $column['kind'] && 'identifier' !== $column['kind']) {
                $counted = array_sum(array_column($detail['parts'], 'count'));
                self::assertLessThanOrEqual($present, $counted, $column['name']);
                if ('number' === $column['kind'] || 'date' === $column['kind']) {
                    self::assertSame($present, $counted, $column['name']);
                }
            }
            foreach ($detail['parts'] as $part) {
                self::assertLessThanOrEqual($part['count'], $part['judged'], $column['name']);
                if (null !== $part['share']) {
                    self::assertTrue($part['shareLow'] <= $part['share'] && $part['share'] <= $part['shareHigh'], $column['name']);
                    self::assertEqualsWithDelta($part['events'] / $part['judged'], $part['share'], 1e-12);
                }
            }
            self::assertEqualsWithDelta($column['missing'] / 1500, $column['missingShare'], 1e-12);
        }
    }

    public function testTheSealedOutcomesAreInNoFigureOfAColumn(): void
    {
        $this->signIn();
        $study = $this->call('GET', '/api/studies/1');
        $column = array_column($this->call('GET', '/api/tables/1')['columns'], 'id', 'name')['tenure'];
        $detail = $this->call('GET', "/api/columns/$column");
        self::assertSame($study['openRows'], $detail['rowsLookedAt']);
        self::assertSame($study['openRows'], array_sum(array_column($detail['parts'], 'judged')));
    }

    public function testVariantsAreCopiedAndGoTheirOwnWays(): void
    {
        $this->signIn();
        $first = $this->call('GET', '/api/studies/1/preparation')['variants'][0];
        $copy = $this->call('POST', '/api/studies/1/variants', ['name' => 'Copy', 'copyFrom' => $first['id']], 201);
        self::assertSame('B', $copy['letter']);
        self::assertSame(array_column($first['steps'], 'step'), array_column($copy['steps'], 'step'));
        $this->call(
            'PUT',
            '/api/variants/'.$copy['id'],
            ['steps' => [['step' => 'set_aside', 'columns' => ['currency']]]],
            200,
            ['If-Match' => (string) $copy['version']],
        );
        $after = $this->call('GET', '/api/studies/1/preparation')['variants'];
        self::assertSame(array_column($first['steps'], 'settings'), array_column($after[0]['steps'], 'settings'), 'the original stays');
        self::assertSame([['columns' => ['currency']]], array_column($after[1]['steps'], 'settings'));
        self::assertSame('C', $this->call('POST', '/api/studies/1/variants', ['name' => 'Empty'], 201)['letter']);
        self::assertSame([], $this->call('GET', '/api/studies/1/preparation')['variants'][2]['steps']);
    }

    /** @return iterable<string, array{list<array<string, mixed>>, ?string, int}> steps, the problem, columns after */
    public static function steps(): iterable
    {
        $aside = static fn (string ...$names): array => ['step' => 'set_aside', 'columns' => array_values($names)];
        yield 'none' => [[], null, 21];
        yield 'one aside' => [[$aside('currency')], null, 20];
        yield 'the same twice' => [[$aside('currency'), $aside('currency')], 'Step 2 cannot be done: There is no column currency', 20];
        yield 'filled after it went' => [
            [$aside('boiler_age'), ['step' => 'fill_missing', 'columns' => ['boiler_age'], 'method' => 'median']],
            'Step 2 cannot be done: There is no column boiler_age',
            20,
        ];
        yield 'filled with a mark' => [
            [['step' => 'fill_missing', 'columns' => ['boiler_age'], 'method' => 'median', 'mark' => true]],
            null,
            22,
        ];
        yield 'a step that is off costs nothing' => [[$aside('currency') + ['off' => true]], null, 21];
        yield 'text cannot be filled' => [[['step' => 'fill_missing', 'columns' => ['booking_note']]], 'booking_note holds text', 21];
        yield 'the target is none of the columns' => [[$aside('return_visit')], 'There is no column return_visit', 21];
    }

    /** @param list<array<string, mixed>> $steps */
    #[DataProvider('steps')]
    public function testAPreviewSaysWhatStepsDoAndWhatCannotBeDone(array $steps, ?string $problem, int $columns): void
    {
        $this->signIn();
        $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0];
        $view = $this->call('POST', '/api/variants/'.$variant['id'].'/preview', ['steps' => $steps]);
        null === $problem ? self::assertNull($view['problem']) : self::assertStringContainsString($problem, (string) $view['problem']);
        self::assertSame($columns, $view['columnsAfter']);
        self::assertCount(\count($steps), $view['steps'], 'a step that cannot be done is kept');
        $missing = $view['missingBefore'];
        foreach ($view['steps'] as $step) {
            if (null !== $step['toll'] && !$step['off']) {
                self::assertSame($missing, $step['toll']['missingBefore']);
                $missing = $step['toll']['missingAfter'];
            }
        }
        self::assertSame($missing, $view['missingAfter']);
        self::assertSame(array_sum(array_column($view['left'], 'missing')), $view['missingAfter']);
    }

    public function testStandingsCountFromTheirFolds(): void
    {
        $this->signIn();
        $id = $this->study('Nobody home')['id'];
        $standings = $this->call('GET', "/api/studies/$id/trials");
        self::assertSame(0.5, (float) $standings['baseline']);
        foreach ($standings['trials'] as $trial) {
            if ('done' !== $trial['state']) {
                continue;
            }
            self::assertCount($standings['folds'] * $standings['repeats'], $trial['each']);
            self::assertEqualsWithDelta(array_sum($trial['each']) / \count($trial['each']), $trial['value'], 1e-9);
            self::assertTrue($trial['low'] <= $trial['value'] && $trial['value'] <= $trial['high']);
        }
        $best = max(0.0, ...array_column($standings['trials'], 'value'));
        self::assertGreaterThan(0.55, $best);
    }

    public function testARefittedTrialGivesTheSameFiguresAndAnotherNumber(): void
    {
        $this->signIn();
        $study = $this->study('Nobody home');
        $before = $this->call('GET', '/api/studies/'.$study['id'].'/trials')['trials'][0];
        $this->call(
            'POST',
            '/api/studies/'.$study['id'].'/trials',
            ['variantId' => $before['variantId'], 'learner' => $before['learner']],
            202,
        );
        $this->work();
        $trials = array_column($this->call('GET', '/api/studies/'.$study['id'].'/trials')['trials'], null, 'number');
        $after = $trials[max(0, ...array_keys($trials))];
        self::assertNotSame($before['number'], $after['number']);
        self::assertSame([$before['value'], $before['each'], $before['training']], [$after['value'], $after['each'], $after['training']]);
        $one = $this->judged($before['id']);
        $two = $this->judged($after['id']);
        self::assertSame($one['coefficients'], $two['coefficients']);
        $terms = array_column($one['coefficients'], null, 'name');
        self::assertSame([1.0, null], [(float) $terms['(intercept)']['step'], $terms['(intercept)']['against']]);
        // Prices lie some fifty apart, days about half a year; a value is told against the first one.
        self::assertSame([50.0, false], [(float) $terms['quoted_cost']['step'], $terms['quoted_cost']['days']]);
        self::assertSame([100.0, true], [(float) $terms['visit_date']['step'], $terms['visit_date']['days']]);
        $levels = array_filter($terms, static fn (array $t): bool => str_contains((string) $t['name'], '='));
        self::assertSame([], array_filter($levels, static fn (array $t): bool => null === $t['against'] || 1.0 !== (float) $t['step']));
        self::assertSame($one['figures'], $two['figures']);
    }

    public function testHowLongATrialWillTakeIsTakenFromThoseThatRan(): void
    {
        $this->signIn();
        $id = $this->study('Nobody home')['id'];
        $told = fn (int $study): array => array_column($this->call('GET', "/api/studies/$study/forecasts"), null, 'learner');
        $logistic = $told($id)['logistic'];
        self::assertSame([true, 1], [$logistic['own'], $logistic['measured']]);
        self::assertArrayNotHasKey('boosting', $told($id), 'what never ran is not known');
        // What looks at its training rows for every answer says so before it has run.
        $slow = $told($id)['neighbors'];
        self::assertSame([null, 0], [$slow['seconds'], $slow['measured']]);
        $study = $this->call('GET', "/api/studies/$id");
        $columns = \count(array_filter(
            $this->call('GET', '/api/tables/'.$study['tableId'])['columns'],
            static fn (array $c): bool => 'input' === $c['use'] && $c['known'],
        ));
        self::assertEqualsWithDelta(10_000 * $study['openRows'] * $columns * TakesTime::SECONDS, $slow['answers'], 1e-9);
        self::assertNull($logistic['answers']);
        $job = $this->entities()->getConnection()->fetchAllAssociative(
            'SELECT ended_at - started_at AS took FROM job WHERE kind = ? AND title LIKE ? AND state = ?',
            ['trial', '%logistic%', 'done'],
        )[0];
        self::assertEqualsWithDelta($job['took'], $logistic['seconds'], 1e-6, 'the same trial again takes as long as it took');
        // Half the columns are half the work.
        $table = $this->call('GET', '/api/tables/'.$this->study('Nobody home')['tableId']);
        $inputs = array_values(array_filter($table['columns'], static fn (array $c): bool => 'input' === $c['use'] && $c['known']));
        foreach (\array_slice($inputs, 0, intdiv(\count($inputs), 2)) as $column) {
            $this->call('PATCH', '/api/columns/'.$column['id'], ['use' => 'set aside'], 200, ['If-Match' => (string) $column['version']]);
        }
        self::assertEqualsWithDelta(
            $job['took'] * (\count($inputs) - intdiv(\count($inputs), 2)) / \count($inputs),
            $told($id)['logistic']['seconds'],
            1e-6,
        );
        // Another study is told from this one until it has its own.
        $this->call(
            'PUT',
            '/api/studies/1/target',
            ['column' => 'return_visit', 'event' => 'yes'],
            200,
            ['If-Match' => (string) $this->call('GET', '/api/studies/1')['version']],
        );
        self::assertFalse($told(1)['logistic']['own']);
    }

    public function testTheFourCellsOfAConfusionHoldEveryJudgedRecordOnce(): void
    {
        $this->signIn();
        $trial = $this->study('Nobody home')['trials'][0]['id'];
        $judgment = $this->judged($trial);
        foreach ([0.1, 0.2, 0.5] as $cutoff) {
            $figures = array_values(array_filter(
                $judgment['figures']['cutoffs'],
                static fn (array $c) => abs($c['cutoff'] - $cutoff) < 1e-9,
            ))[0];
            $seen = [];
            foreach (['tp', 'fp', 'fn', 'tn'] as $cell) {
                $page = $this->call('GET', "/api/trials/$trial/records?cell=$cell&cutoff=$cutoff&limit=200");
                self::assertSame((int) $figures[$cell], $page['total'], "$cell at $cutoff");
                foreach ($page['records'] as $record) {
                    self::assertSame(\in_array($cell, ['tp', 'fn'], true), $record['event']);
                    self::assertSame(\in_array($cell, ['tp', 'fp'], true), $record['chance'] >= $cutoff);
                    self::assertArrayNotHasKey($record['number'], $seen);
                    $seen[$record['number']] = true;
                }
            }
            self::assertSame(
                $judgment['trial']['rows'] - $judgment['trial']['unanswered'],
                array_sum(array_map(static fn (string $c) => (int) $figures[$c], ['tp', 'fp', 'fn', 'tn'])),
            );
        }
    }

    public function testTheBaselineIsJudgedLikeAnyOther(): void
    {
        $this->signIn();
        $study = $this->study('Nobody home');
        $baseline = array_values(array_filter($study['trials'], static fn (array $t) => 'Baseline' === $t['title']))[0];
        $judgment = $this->judged($baseline['id']);
        self::assertEqualsWithDelta(0.5, $judgment['figures']['auc']['value'], 0.02);
        self::assertSame([], $judgment['coefficients']);
        $reasons = $this->call('GET', '/api/trials/'.$baseline['id'].'/reasons/1');
        self::assertSame([], $reasons['contributions']);
        self::assertEqualsWithDelta($reasons['baseRate'], $reasons['chance'], 1e-12);
    }

    public function testLearnersSayWhatTheyAre(): void
    {
        $this->signIn();
        foreach ($this->call('GET', '/api/learners') as $learner) {
            self::assertIsArray($learner);
            self::assertNotSame('', $learner['name']);
            self::assertStringEndsWith('.', $learner['explanation']);
        }
    }

    public function testATrialMayLearnFromAPartOfTheRowsAndIsJudgedOnTheSameOnes(): void
    {
        $this->signIn();
        $study = $this->study('Nobody home');
        $variant = $this->call('GET', '/api/studies/'.$study['id'].'/preparation')['variants'][0]['id'];
        $run = function (?int $rows) use ($study, $variant): array {
            $job = $this->call(
                'POST',
                '/api/studies/'.$study['id'].'/trials',
                ['variantId' => $variant, 'learner' => 'tree', 'settings' => [], 'rows' => $rows],
                202,
            );
            $this->work();

            return array_column($this->call('GET', '/api/studies/'.$study['id'].'/trials')['trials'], null, 'id')[$job['subject']];
        };
        [$all, $part, $again] = [$run(null), $run(200), $run(200)];
        self::assertSame([null, 200], [$all['part'], $part['part']]);
        self::assertSame([$all['rows'], $all['unanswered']], [$part['rows'], $part['unanswered']], 'judged on the same rows');
        self::assertNotSame($all['value'], $part['value']);
        self::assertSame($part['each'], $again['each'], 'the same rows each time');
        self::assertSame([], $part['stale']);
        $tree = $this->call('GET', '/api/trials/'.$part['id'].'/tree')['tree'];
        self::assertLessThanOrEqual(200, array_sum(array_column($tree['leaves'], 'trainingRows')) + $tree['rows']);
        self::assertStringContainsString(
            '100 or more',
            $this->call(
                'POST',
                '/api/studies/'.$study['id'].'/trials',
                ['variantId' => $variant, 'learner' => 'tree', 'rows' => 99],
                422,
            )['title'],
        );
    }
}
