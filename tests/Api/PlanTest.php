<?php

declare(strict_types=1);

namespace App\Tests\Api;

/** What a trial may be besides learner and settings: some of the columns, calibrated, one of several, ranked by another figure. */
final class PlanTest extends ApiTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
    }

    private function variant(int $study = 1): int
    {
        $id = $this->call('GET', "/api/studies/$study/preparation")['variants'][0]['id'];
        \assert(\is_int($id));

        return $id;
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    private function tried(array $more): array
    {
        $trial = $this->call('POST', '/api/studies/1/trials', ['variantId' => $this->variant()] + $more, 202)['subject'];
        $this->work();
        $line = array_column($this->call('GET', '/api/studies/1/trials')['trials'], null, 'id')[$trial];
        self::assertSame('done', $line['state'], (string) json_encode($line['failure']));

        return $line;
    }

    public function testATrialUsesTheColumnsThatWereChosen(): void
    {
        $all = $this->tried(['learner' => 'tree']);
        $only = $this->tried(['learner' => 'tree', 'choice' => ['names' => ['days_ahead', 'boiler_age', 'job_type'], 'without' => false]]);
        $without = $this->tried([
            'learner' => 'logistic',
            'choice' => ['names' => ['days_ahead', 'district', 'not there any more'], 'without' => true],
        ]);
        self::assertNull($all['choice']);
        self::assertSame(['names' => ['days_ahead', 'boiler_age', 'job_type'], 'without' => false], $only['choice']);
        self::assertLessThanOrEqual(3, $only['columns']);
        $used = array_map(static fn (array $c): string => explode('=', $c['name'])[0], $this->judged($without['id'])['coefficients']);
        self::assertSame([], array_intersect($used, ['days_ahead', 'district']));
        self::assertContains('boiler_age', $used);
        // On the same folds, so that they are compared.
        $distances = $this->call('GET', '/api/studies/1/trials')['distances'];
        self::assertNotEmpty($distances);
        self::assertSame([], array_filter($distances, static fn (array $d): bool => null === $d['p']));
    }

    public function testAPreparationOffersWhatMayServeAndWhatItMade(): void
    {
        $offered = array_column($this->call('GET', '/api/variants/'.$this->variant().'/offered'), null, 'name');
        self::assertSame(['number', null], [$offered['days_ahead']['kind'], $offered['days_ahead']['made']]);
        self::assertArrayNotHasKey('return_visit', $offered);
        self::assertArrayNotHasKey('visit_id', $offered, 'a key is no input');
        self::assertArrayNotHasKey('minutes_on_site', $offered, 'known only afterwards');
        self::assertSame('boiler_age', $offered['boiler_age_was_missing']['made'] ?? null);
    }

    public function testAChoiceHasANameAndIsUsedAgain(): void
    {
        $kept = $this->call(
            'POST',
            '/api/studies/1/choices',
            ['name' => ' Few ', 'names' => ['days_ahead', 'days_ahead', 'slot'], 'without' => false],
            201,
        );
        self::assertSame(['Few', ['days_ahead', 'slot'], false], [$kept['name'], $kept['names'], $kept['without']]);
        $again = $this->call('POST', '/api/studies/1/choices', ['name' => 'Few', 'names' => ['slot'], 'without' => true], 201);
        self::assertSame($kept['id'], $again['id']);
        self::assertSame(
            [['id' => $kept['id'], 'name' => 'Few', 'names' => ['slot'], 'without' => true]],
            $this->call('GET', '/api/studies/1/choices'),
        );
        $this->call('POST', '/api/studies/1/choices', ['names' => ['slot']], 422);
        $this->call('POST', '/api/studies/1/choices', ['name' => 'None', 'names' => []], 422);
        $this->call('DELETE', '/api/choices/'.$kept['id'], null, 204);
        self::assertSame([], $this->call('GET', '/api/studies/1/choices'));
    }

    public function testSeveralStartAtOnceOrNone(): void
    {
        $before = \count($this->call('GET', '/api/studies/1/trials')['trials']);
        $this->call('POST', '/api/studies/1/trials/several', ['variantId' => $this->variant(), 'learners' => ['tree', 'linear']], 409);
        $this->call('POST', '/api/studies/1/trials/several', ['variantId' => $this->variant(), 'learners' => []], 422);
        self::assertCount($before, $this->call('GET', '/api/studies/1/trials')['trials'], 'of two of which one cannot be tried none is');
        $jobs = $this->call(
            'POST',
            '/api/studies/1/trials/several',
            ['variantId' => $this->variant(), 'learners' => ['tree', 'rules', 'baseline'], 'rows' => 600],
            202,
        );
        self::assertCount(3, $jobs);
        self::assertCount($before + 3, $this->call('GET', '/api/studies/1/trials')['trials']);
        $this->work();
        $lines = array_column($this->call('GET', '/api/studies/1/trials')['trials'], null, 'id');
        foreach ($jobs as $job) {
            self::assertSame(['done', 600], [$lines[$job['subject']]['state'], $lines[$job['subject']]['part']]);
        }
    }

    public function testTrialsAreRankedByAnotherFigure(): void
    {
        $this->tried(['learner' => 'logistic']);
        $this->tried(['learner' => 'tree']);
        $this->tried(['learner' => 'baseline']);
        $auc = $this->call('GET', '/api/studies/1/trials');
        self::assertSame('auc', $auc['measure']['key']);
        self::assertContains('logLoss', array_column($auc['rankings'], 'key'));
        $loss = $this->call('PUT', '/api/studies/1/figure', ['figure' => 'logLoss']);
        self::assertSame(['logLoss', false], [$loss['measure']['key'], $loss['measure']['more']]);
        $values = array_values(array_filter(array_column($loss['trials'], 'value')));
        $sorted = $values;
        sort($sorted);
        self::assertSame($sorted, $values, 'least first');
        self::assertSame($loss['trials'][0]['value'], $this->judged($loss['trials'][0]['id'])['figures']['logLoss']['value']);
        self::assertNotNull($loss['distances'][0]['p']);
        self::assertGreaterThan(0, $loss['distances'][\count($loss['distances']) - 1]['difference']);
        $this->call('PUT', '/api/studies/1/figure', ['figure' => 'rmse'], 422);
        $this->call('PUT', '/api/studies/1/figure', ['figure' => ''], 422);
        self::assertStringContainsString(
            'ranked by mean log loss now',
            $this->call('GET', '/api/studies/1/logbook')['entries'][0]['sentence'],
        );
        $back = $this->call('PUT', '/api/studies/1/figure', ['figure' => 'auc']);
        self::assertSame(array_column($auc['trials'], 'id'), array_column($back['trials'], 'id'));
        self::assertEquals($auc['distances'], $back['distances']);
    }

    public function testMoneyRanksTrialsToo(): void
    {
        $this->tried(['learner' => 'logistic']);
        $this->tried(['learner' => 'tree']);
        $money = $this->call('PUT', '/api/studies/1/figure', ['figure' => 'return:4:20:0']);
        self::assertSame(['return:4:20:0', true], [$money['measure']['key'], $money['measure']['more']]);
        foreach ($money['trials'] as $line) {
            self::assertIsNumeric($line['value']);
            self::assertLessThan($line['value'], $line['low']);
        }
        // One that is fitted afterwards is measured by it as well.
        $later = $this->tried(['learner' => 'forest', 'settings' => ['trees' => 5]]);
        self::assertIsNumeric($later['value']);
        $values = array_column($this->call('GET', '/api/studies/1/trials')['trials'], 'value');
        $sorted = $values;
        rsort($sorted);
        self::assertSame($sorted, $values, 'most first');
        $this->call('PUT', '/api/studies/1/figure', ['figure' => 'return:4:0:0'], 422);
        $this->call('PUT', '/api/studies/1/figure', ['figure' => 'auc']);
    }

    /** A forest of few deep trees is too sure of itself; a regression is not. */
    public function testChancesAreCalibratedAndReplayedAtScoring(): void
    {
        $settings = ['learner' => 'forest', 'settings' => ['trees' => 8, 'leaf' => 1]];
        $plain = $this->judged($this->tried($settings)['id'])['figures'];
        $losses = [];
        foreach (['sigmoid', 'isotonic', 'whichever does better'] as $way) {
            $line = $this->tried($settings + ['calibration' => $way]);
            self::assertSame($way, $line['calibration']);
            $losses[$way] = $this->judged($line['id'])['figures']['logLoss']['value'];
            self::assertLessThan($plain['logLoss']['value'], $losses[$way], $way);
        }
        self::assertEqualsWithDelta(min($losses['sigmoid'], $losses['isotonic']), $losses['whichever does better'], 1e-12);
        $model = $this->call('GET', '/api/trials/'.$line['id'].'/judgment');
        self::assertSame('calibrated', array_column($model['sections'], null, 'kind')['calibrated']['kind'] ?? null);
        $reasons = $this->call('GET', '/api/trials/'.$line['id'].'/reasons/7');
        self::assertNotEqualsWithDelta($reasons['chance'], $reasons['uncalibrated'], 1e-9);
        $batch = $this->call(
            'POST',
            '/api/studies/1/scorings',
            ['trialId' => $line['id'], 'tableId' => $this->call('GET', '/api/studies/1')['tableId'], 'cutoff' => 0.2],
            202,
        )['subject'];
        $this->work();
        $chances = array_column($this->call('GET', "/api/scorings/$batch/rows?limit=200")['rows'], 'chance');
        self::assertSame(
            [],
            array_filter($chances, static fn (?float $c): bool => null !== $c && ($c <= 0.0 || $c >= 1.0)),
            'kept off 0 and 1',
        );
        $this->call(
            'POST',
            '/api/studies/1/trials',
            ['variantId' => $this->variant(), 'learner' => 'tree', 'calibration' => 'by feel'],
            422,
        );
    }

    public function testTwoFinalistsStandWithThePriceOfClarity(): void
    {
        $forest = $this->tried(['learner' => 'forest', 'settings' => ['trees' => 30]]);
        $tree = $this->tried(['learner' => 'tree', 'settings' => ['depth' => 3]]);
        $this->tried(['learner' => 'baseline']);
        $finalists = fn (): array => $this->call('GET', '/api/studies/1/trials')['finalists'];
        $standings = $this->call('GET', '/api/studies/1/trials');
        $lines = array_column($standings['trials'], null, 'id');
        $two = $finalists();
        self::assertSame($standings['trials'][0]['id'], $two['strongest']);
        self::assertSame([30, false, ''], [$two['reading'], $two['byHand'], $two['reason']]);
        self::assertNotNull($two['clearest']);
        self::assertNotSame($forest['id'], $two['clearest'], 'a forest is not read');
        if ($two['strongest'] !== $two['clearest']) {
            self::assertEqualsWithDelta($lines[$two['strongest']]['value'] - $lines[$two['clearest']]['value'], $two['price'], 0.05);
            self::assertLessThanOrEqual($two['price'], $two['low']);
            self::assertGreaterThanOrEqual($two['price'], $two['high']);
        }
        self::assertGreaterThan(0.2, $two['reached']);
        // Nothing is within limits that nothing can keep.
        self::assertNull($this->call('PUT', '/api/studies/1/finalists', ['reading' => 30, 'least' => 0.99])['finalists']['clearest']);
        self::assertNull($this->call('PUT', '/api/studies/1/finalists', ['reading' => 1])['finalists']['clearest']);
        // By hand, with a reason that stands in the logbook.
        $this->call('PUT', '/api/studies/1/finalists', ['clearestId' => $tree['id']], 422);
        $this->call('PUT', '/api/studies/1/finalists', ['clearestId' => 999999, 'reason' => 'None.'], 404);
        $hand = $this->call(
            'PUT',
            '/api/studies/1/finalists',
            ['clearestId' => $tree['id'], 'strongestId' => $forest['id'], 'reason' => 'The crew knows it.'],
        )['finalists'];
        self::assertSame(
            [$forest['id'], $tree['id'], true, 'The crew knows it.'],
            [$hand['strongest'], $hand['clearest'], $hand['byHand'], $hand['reason']],
        );
        self::assertStringContainsString(
            'as the clearest, because: The crew knows it.',
            $this->call('GET', '/api/studies/1/logbook')['entries'][0]['sentence'],
        );
    }

    public function testATrialIsReducedAndTrainedAgain(): void
    {
        $tree = $this->tried(['learner' => 'tree', 'settings' => ['depth' => 3]]);
        $again = $this->call('POST', '/api/trials/'.$tree['id'].'/reduce', ['columns' => ['boiler_age', 'district']], 202)['subject'];
        $this->work();
        $line = array_column($this->call('GET', '/api/studies/1/trials')['trials'], null, 'id')[$again];
        self::assertSame(['done', 'tree', true], [$line['state'], $line['learner'], $line['choice']['without']]);
        // What was made of a column alone goes with it.
        self::assertEqualsCanonicalizing(['boiler_age', 'boiler_age_was_missing', 'district'], $line['choice']['names']);
        self::assertSame($tree['settings'], $line['settings']);
        $both = $this->call('GET', '/api/trials/'.$again.'/against?other='.$tree['id']);
        self::assertNotNull($both['byFolds']['low']);
        $fewer = $this->call('POST', '/api/trials/'.$again.'/reduce', ['columns' => ['slot']], 202)['subject'];
        $this->work();
        self::assertContains(
            'district',
            array_column($this->call('GET', '/api/studies/1/trials')['trials'], null, 'id')[$fewer]['choice']['names'],
        );
        $this->call('POST', '/api/trials/'.$tree['id'].'/reduce', ['columns' => ['return_visit']], 422);
        $this->call('POST', '/api/trials/'.$tree['id'].'/reduce', ['columns' => []], 422);
        $this->call('POST', '/api/trials/'.$again.'/reduce', ['columns' => ['district']], 409);
    }

    public function testALearningCurveKeepsTheRowsThatJudge(): void
    {
        $tree = $this->tried(['learner' => 'tree', 'settings' => ['depth' => 4]]);
        self::assertSame([], $this->call('GET', '/api/trials/'.$tree['id'].'/curve')['points']);
        $job = $this->call('POST', '/api/trials/'.$tree['id'].'/curve', null, 202);
        self::assertSame($job['id'], $this->call('POST', '/api/trials/'.$tree['id'].'/curve', null, 202)['id'], 'once at a time');
        $this->work();
        $curve = $this->call('GET', '/api/trials/'.$tree['id'].'/curve');
        self::assertSame([0.1, 0.2, 0.4, 0.7, 1], array_column($curve['points'], 'share'));
        $rows = array_column($curve['points'], 'rows');
        $sorted = $rows;
        sort($sorted);
        self::assertSame($sorted, $rows);
        self::assertNull($curve['jobId']);
        // All rows: what the trial itself scores on the first round of folds.
        $each = \array_slice($tree['each'], 0, 5);
        self::assertEqualsWithDelta(array_sum($each) / 5, $curve['points'][4]['value'], 1e-9);
        self::assertNotNull($curve['low']);
        self::assertSame(
            $curve['low'] > 0 || $curve['high'] < 0,
            null !== $curve['says'],
            'a sentence only where the interval holds no nothing',
        );
    }
}
