<?php

declare(strict_types=1);

namespace App\Tests\Api;

/** For whom a trial is right, and one trial against another. */
final class ComparedTest extends ApiTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
    }

    /** @return array<string, mixed> */
    private function trial(string $study, string $learner): array
    {
        $trials = $this->call('GET', '/api/studies/'.$this->study($study)['id'].'/trials')['trials'];

        return array_column($trials, null, 'learner')[$learner];
    }

    public function testFiguresByGroupAddUpToThoseOfAll(): void
    {
        $trial = $this->trial('Nobody home', 'logistic');
        $figures = $this->judged($trial['id'])['figures'];
        $view = $this->call('GET', '/api/trials/'.$trial['id'].'/groups?cutoff=0.1');
        self::assertContains($view['by'], $view['columns']);
        self::assertNotContains('booking_note', $view['columns'], 'free text makes no groups');
        self::assertEqualsWithDelta($figures['auc']['value'], $view['all']['measured']['value'], 1e-12);
        self::assertSame($figures['cutoffs'][10]['recall'], $view['all']['caught']);
        foreach (['job_type', 'travel_km', 'visit_date', 'tenure'] as $by) {
            $view = $this->call('GET', '/api/trials/'.$trial['id'].'/groups?cutoff=0.1&by='.$by);
            foreach (['rows', 'unanswered', 'events'] as $what) {
                self::assertSame($view['all'][$what], array_sum(array_column($view['groups'], $what)), "$by $what");
            }
            foreach ($view['groups'] as $group) {
                self::assertTrue(null === $group['measured']['low'] || ($group['measured']['low'] <= $group['measured']['value'] && $group['measured']['value'] <= $group['measured']['high']));
            }
        }
        self::assertStringContainsString(
            'cannot be grouped by',
            $this->call('GET', '/api/trials/'.$trial['id'].'/groups?by=nothing', null, 422)['title'],
        );
    }

    public function testANumberIsJudgedByGroupToo(): void
    {
        $trial = $this->trial('Minutes on site', 'linear');
        $figures = $this->judged($trial['id'])['figures'];
        $view = $this->call('GET', '/api/trials/'.$trial['id'].'/groups?by=job_type');
        self::assertSame('RMSE', $view['measure']['name']);
        self::assertEqualsWithDelta($figures['rmse']['value'], $view['all']['measured']['value'], 1e-12);
        $squares = array_sum(array_map(static fn (array $g): float => $g['rows'] * $g['measured']['value'] ** 2, $view['groups']));
        self::assertEqualsWithDelta($view['within'] ** 2, $squares / $view['all']['rows'], 1e-6);
        self::assertNotNull($view['groups'][0]['off']['value']);
    }

    public function testTwoTrialsAreComparedOnTheSameRows(): void
    {
        $one = $this->trial('Nobody home', 'logistic');
        $other = $this->trial('Nobody home', 'baseline');
        $view = $this->call('GET', '/api/trials/'.$one['id'].'/against?other='.$other['id'].'&cutoff=0.1');
        self::assertSame($view['rows'], $view['bothRight'] + $view['onlyOne'] + $view['onlyOther'] + $view['bothWrong']);
        $back = $this->call('GET', '/api/trials/'.$other['id'].'/against?other='.$one['id'].'&cutoff=0.1');
        foreach (['byFolds', 'byRanking', 'byRows'] as $what) {
            self::assertTrue($view[$what]['low'] <= $view[$what]['value'] && $view[$what]['value'] <= $view[$what]['high'], $what);
            self::assertEqualsWithDelta(-$view[$what]['value'], $back[$what]['value'], 1e-12, $what);
            self::assertEqualsWithDelta(-$view[$what]['low'], $back[$what]['high'], 1e-9, $what);
        }
        self::assertSame([$view['onlyOne'], $view['decisionsP']], [$back['onlyOther'], $back['decisionsP']]);
        self::assertStringContainsString(
            'set against another one of the same study',
            $this->call('GET', '/api/trials/'.$one['id'].'/against?other='.$one['id'], null, 422)['title'],
        );
        $elsewhere = $this->trial('Minutes on site', 'linear')['id'];
        $this->call('GET', '/api/trials/'.$one['id'].'/against?other='.$elsewhere, null, 422);
        $this->call('GET', '/api/trials/'.$one['id'].'/against?other=999999', null, 404);
        $lines = $this->call('GET', '/api/trials/'.$elsewhere.'/against?other='.$this->trial('Minutes on site', 'baseline')['id']);
        self::assertSame(
            ['RMSE', 'absolute error', null, null],
            [$lines['measure']['name'], $lines['loss'], $lines['bothRight'], $lines['byRanking']],
        );
        self::assertLessThan(0.0, $lines['byRows']['high'], 'the line is off by less than the mean');
    }
}
