<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Search\Search;
use App\Search\SearchTry;

/** A search from what it would take to the trial that it hands over. */
final class SearchTest extends ApiTestCase
{
    /** Left to others: two searches are enough to see how a search goes. */
    private const NEWER = ['additive', 'naive-bayes', 'bayes-network', 'neighbors', 'neural-network'];

    private const SPACES = [[
        'learner' => 'tree',
        'settings' => ['depth' => ['list' => [2, 3, 5]], 'leaf' => ['from' => 20, 'to' => 80, 'points' => 3, 'by' => 'factors']],
    ]];

    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    private function asked(array $more = []): array
    {
        return $more + ['spaces' => self::SPACES, 'variantIds' => [$this->call('GET', '/api/studies/1/preparation')['variants'][0]['id']]];
    }

    public function testAllCombinationsAreWeighedAndTheBestIsATrial(): void
    {
        $asked = $this->asked(['choices' => [['names' => ['days_ahead', 'boiler_age', 'job_type', 'reminder_sent'], 'name' => 'four']]]);
        $told = $this->call('POST', '/api/studies/1/searches/weigh', $asked);
        self::assertEquals([18, 18, 90], [$told['combinations'], $told['tries'], $told['fits']]);
        $job = $this->call('POST', '/api/studies/1/searches', $asked, 202);
        self::assertSame('search', $job['kind']);
        $this->work(3);
        $half = $this->call('GET', '/api/searches/'.$job['subject']);
        self::assertSame(['running', 18], [$half['state'], $half['tries']]);
        self::assertGreaterThan(0, $half['done']);
        self::assertNull($half['value'], 'nothing counts while searching');
        $this->work();
        $view = $this->call('GET', '/api/searches/'.$job['subject']);
        self::assertSame(['done', 18, 0], [$view['state'], $view['done'], $view['failed']]);
        $values = array_column($view['best'], 'value');
        $sorted = $values;
        rsort($sorted);
        self::assertSame($sorted, $values);
        self::assertSame($values[0], $view['searching']);
        self::assertGreaterThanOrEqual(0.0, $view['luck']);
        self::assertEqualsWithDelta($view['searching'] - $view['luck'], $view['value'], 1e-12);
        self::assertLessThan($view['value'], $view['low']);
        self::assertEqualsCanonicalizing(['depth', 'leaf', 'columns'], array_column($view['effects'], 'name'));
        self::assertSame(18, array_sum(array_column($view['effects'][0]['parts'], 'tries')));
        // The trial has the corrected figure, and its folds are moved with it.
        $line = array_column($this->call('GET', '/api/studies/1/trials')['trials'], null, 'id')[$view['trialId']];
        self::assertSame(['done', 'tree'], [$line['state'], $line['learner']]);
        self::assertEqualsWithDelta($view['value'], $line['value'], 1e-12);
        self::assertEqualsWithDelta($view['value'], array_sum($line['each']) / \count($line['each']), 1e-9);
        self::assertSame([$view['searching'], 18], [$line['chosen']['searching'], $line['chosen']['tries']]);
        $lines = $this->call('GET', '/api/studies/1/searches');
        self::assertSame([$job['subject'], 18, $line['number']], [$lines[0]['id'], $lines[0]['done'], $lines[0]['trialNumber']]);
        $this->call('POST', '/api/searches/'.$job['subject'].'/on', ['more' => 5], 409);
    }

    public function testTheSameSeedWeighsTheSameAndMoreBeginsWithFewer(): void
    {
        $asked = $this->asked(['way' => 'random draws', 'tries' => 4, 'seed' => 5]);
        $tries = function (int $search): array {
            $all = $this->entities()->getRepository(SearchTry::class)->findBy(['search' => $search], ['place' => 'ASC']);

            return array_map(static fn (SearchTry $t): array => [$t->place(), $t->settings(), $t->value()], $all);
        };
        $one = $this->call('POST', '/api/studies/1/searches', $asked, 202)['subject'];
        $this->work();
        $first = $tries($one);
        self::assertCount(4, $first);
        $this->call('POST', "/api/searches/$one/on", ['more' => 3], 202);
        $this->work();
        $more = $tries($one);
        self::assertSame($first, \array_slice($more, 0, 4));
        $other = $this->call('POST', '/api/studies/1/searches', ['tries' => 7] + $asked, 202)['subject'];
        $this->work();
        self::assertSame($more, $tries($other));
        $both = array_map(
            fn (int $id): array => array_intersect_key(
                $this->call('GET', "/api/searches/$id"),
                ['value' => 1, 'low' => 1, 'high' => 1, 'luck' => 1],
            ),
            [$one, $other],
        );
        self::assertSame($both[0], $both[1]);
    }

    public function testIsStoppedGoesOnAndCanBeKeptWhereItIs(): void
    {
        $search = $this->call('POST', '/api/studies/1/searches', $this->asked(), 202);
        $this->call('POST', '/api/searches/'.$search['subject'].'/keep', null, 409);
        $this->work(4);
        $this->call('POST', '/api/jobs/'.$search['id'].'/cancel');
        $stopped = $this->call('GET', '/api/searches/'.$search['subject']);
        self::assertSame('stopped', $stopped['state']);
        self::assertSame(4, $stopped['done']);
        $this->call('POST', '/api/searches/'.$search['subject'].'/keep', null, 202);
        $this->work();
        $kept = $this->call('GET', '/api/searches/'.$search['subject']);
        self::assertSame(['done', 4], [$kept['state'], $kept['done']]);
        self::assertNotNull($kept['trialId']);
        $this->call('POST', '/api/searches/'.$search['subject'].'/on', [], 202);
        $this->work();
        $all = $this->call('GET', '/api/searches/'.$search['subject']);
        self::assertSame(['done', 9], [$all['state'], $all['done']]);
        self::assertNotSame($kept['trialId'], $all['trialId']);
    }

    public function testASettingThatCannotBeFittedIsSaidAndTheOthersGoOn(): void
    {
        $this->withoutNote();
        $spaces = [['learner' => 'logistic', 'settings' => ['selection' => ['list' => ['all of them', 'best subsets']]]]];
        $search = $this->call('POST', '/api/studies/1/searches', $this->asked([
            'spaces' => $spaces,
            'choices' => [['names' => ['days_ahead', 'boiler_age', 'travel_km', 'quoted_cost', 'past_returns']]],
            'allColumns' => false,
        ]), 202)['subject'];
        $this->work();
        $view = $this->call('GET', "/api/searches/$search");
        self::assertSame('done', $view['state']);
        self::assertSame($view['done'], \count($view['best']) + $view['failed']);
        foreach ($view['failures'] as $try) {
            self::assertNotSame('', (string) $try['why']);
        }
    }

    public function testWhatCannotBeSearchedIsSaidBeforeAnythingBegins(): void
    {
        $tree = static fn (mixed $depth): array => ['spaces' => [['learner' => 'tree', 'settings' => ['depth' => $depth]]]];
        foreach ([
            [
                $tree(['list' => [2, 'deep']]),
                'no value of',
            ], [$tree(3), 'at least two settings'], [$tree(['from' => 9, 'to' => 2]), 'rises'],
            [['spaces' => [['learner' => 'oracle', 'settings' => []]]], 'no learner called'], [['spaces' => []], 'at least one learner'],
            [['way' => 'by feel'] + $tree(['list' => [2, 3]]), 'all combinations'], [
                ['way' => 'random draws', 'tries' => 0] + $tree(['list' => [2, 3]]),
                '1 to 5,000',
            ],
            [['spaces' => [['learner' => 'linear', 'settings' => ['mix' => ['list' => [0.1, 0.2]]]]]], 'does not predict'],
        ] as [$more, $says]) {
            $this->client->request(
                'POST',
                '/api/studies/1/searches',
                server: ['CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json'],
                content: (string) json_encode($this->asked($more)),
            );
            self::assertContains($this->client->getResponse()->getStatusCode(), [409, 422], $says);
            self::assertStringContainsString(
                $says,
                (string) json_decode((string) $this->client->getResponse()->getContent(), true)['title'],
            );
        }
        self::assertCount(0, $this->entities()->getRepository(Search::class)->findAll());
    }

    /** Words of the note make every fit slow; what they do is tried in the core. */
    private function withoutNote(): void
    {
        foreach ($this->call('GET', '/api/tables/1')['columns'] as $column) {
            if ('booking_note' === $column['name']) {
                $this->call(
                    'PATCH',
                    '/api/columns/'.$column['id'],
                    ['use' => 'set aside'],
                    200,
                    ['If-Match' => (string) $column['version']],
                );
            }
        }
    }

    public function testAGuidedSearchEndsInTrialsAVariantAndTwoFinalists(): void
    {
        $this->withoutNote();
        $variant = $this->asked()['variantIds'][0];
        $job = $this->call(
            'POST',
            '/api/studies/1/guided',
            ['variantId' => $variant, 'tries' => 8, 'without' => ['forest', ...self::NEWER], 'reading' => 40],
            202,
        );
        self::assertSame('guided', $job['kind']);
        $this->work(1);
        $half = $this->call('GET', '/api/guided/'.$job['subject']);
        self::assertSame(['running', 'rung 1'], [$half['state'], $half['stage']]);
        self::assertNotEmpty($half['ideas']);
        self::assertGreaterThan(0, $half['judging']);
        $this->work();
        $view = $this->call('GET', '/api/guided/'.$job['subject']);
        self::assertSame(['done', 'done', null], [$view['state'], $view['stage'], $view['failure']]);
        self::assertSame([8, 8], [$view['rungs'][0]['tries'], $view['rungs'][0]['done']]);
        self::assertLessThan(8, $view['rungs'][2]['tries']);
        self::assertSame([], array_diff(array_column($view['finals'], 'learner'), ['logistic', 'tree', 'rules', 'boosting']));
        self::assertCount(4, $view['finals']);
        $lines = array_column($this->call('GET', '/api/studies/1/trials')['trials'], null, 'id');
        foreach ($view['finals'] as $final) {
            // Only the figure of rows that no choice had read counts.
            $line = $lines[$final['trialId']];
            self::assertSame('done', $line['state'], (string) $line['failure']);
            self::assertEqualsWithDelta($final['value'], $line['value'], 1e-12);
            self::assertSame($final['searching'], $line['chosen']['searching']);
        }
        $standings = $this->call('GET', '/api/studies/1/trials')['finalists'];
        self::assertSame(40, $standings['reading']);
        self::assertNotNull($standings['strongest']);
        // What it invented are ordinary steps.
        $letters = array_column($this->call('GET', '/api/studies/1/preparation')['variants'], null, 'letter');
        self::assertArrayHasKey($view['variant'], $letters);
        self::assertNull($letters[$view['variant']]['problem']);
        self::assertStringContainsString('--tries=8', $view['command']);
        self::assertTrue($this->call('GET', '/api/studies/1/searches')[0]['guided']);
        $this->call('GET', '/api/searches/'.$job['subject'], null, 404);
    }

    public function testAGuidedSearchIsStoppedAndKeepsItsBest(): void
    {
        $this->withoutNote();
        $variant = $this->asked()['variantIds'][0];
        $job = $this->call(
            'POST',
            '/api/studies/1/guided',
            ['variantId' => $variant, 'tries' => 4, 'without' => ['forest', 'boosting', 'logistic', ...self::NEWER]],
            202,
        );
        $this->call('POST', '/api/searches/'.$job['subject'].'/keep', null, 409);
        $this->work(2);
        $this->call('POST', '/api/searches/'.$job['subject'].'/keep', null, 202);
        $this->work();
        $view = $this->call('GET', '/api/guided/'.$job['subject']);
        self::assertSame('done', $view['state']);
        self::assertNotEmpty($view['finals']);
        $this->call('POST', '/api/studies/1/guided', ['variantId' => $variant], 422);
        $this->call(
            'POST',
            '/api/studies/1/guided',
            ['variantId' => $variant, 'tries' => 8, 'without' => ['forest', 'boosting', 'logistic', 'tree', 'rules', ...self::NEWER]],
            422,
        );
    }
}
