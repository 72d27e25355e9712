<?php

declare(strict_types=1);

namespace App\Tests\Api;

use PHPUnit\Framework\Attributes\DataProvider;

/** Steps over HTTP: what they cost, how they are looked at, which order does less harm, and new records. */
final class PreparationTest extends ApiTestCase
{
    private int $variant;

    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
        $id = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
        \assert(\is_int($id));
        $this->variant = $id;
    }

    /**
     * @param list<array<string, mixed>> $steps
     *
     * @return array<mixed>
     */
    private function preview(array $steps, ?int $look = null): array
    {
        return $this->call(
            'POST',
            '/api/variants/'.$this->variant.'/preview',
            ['steps' => $steps] + (null === $look ? [] : ['look' => $look]),
        );
    }

    public function testKindsOfStepsAreDescribed(): void
    {
        $given = $this->call('GET', '/api/steps');
        $steps = array_column($given['steps'], null, 'step');
        self::assertGreaterThan(20, \count($steps));
        self::assertSame(['columns', 'method', 'constant', 'group', 'mark'], array_column($steps['fill_missing']['settings'], 'name'));
        self::assertContains('median by group', $steps['fill_missing']['settings'][1]['choices']);
        self::assertContains('round(x, digits)', $given['formulas']);
        self::assertContains('is over', array_column($given['asks'], 'relations', 'kind')['number']);
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function steps(): iterable
    {
        yield 'fill by group' => [
            [
                'step' => 'fill_missing',
                'columns' => ['boiler_age'],
                'method' => 'median by group',
                'group' => 'boiler_make',
                'mark' => true,
            ],
            'with the same boiler_make',
        ];
        yield 'a code made missing' => [['step' => 'recode', 'column' => 'travel_km', 'pairs' => [['-1', '']]], '-1 becomes missing'];
        yield 'bins by the target' => [
            ['step' => 'bins', 'columns' => ['days_ahead'], 'method' => 'by the target'],
            'Puts into bins, by the target',
        ];
        yield 'share of the event' => [
            ['step' => 'encode', 'columns' => ['district'], 'method' => 'share of the event'],
            'each training row by what the others say',
        ];
        yield 'words' => [['step' => 'text_terms', 'column' => 'booking_note', 'most' => 8], 'Makes columns of 8 words of booking_note'];
        yield 'a date' => [['step' => 'date_parts', 'column' => 'visit_date', 'parts' => ['weekday']], 'Makes the weekday of visit_date'];
        yield 'components' => [['step' => 'components', 'columns' => ['travel_km', 'quoted_cost', 'days_ahead']], 'hold'];
        yield 'a formula' => [['step' => 'formula', 'name' => 'far', 'formula' => 'travel_km > 20 and days_ahead > 9'], 'Makes far'];
        yield 'telling columns' => [['step' => 'keep_strong', 'least' => 0.02], 'information value'];
        yield 'rows by condition' => [
            ['step' => 'keep_rows', 'where' => [['days_ahead', 'is over', '2']]],
            'Keeps rows where days_ahead is over 2.',
        ];
    }

    /** @param array<string, mixed> $step */
    #[DataProvider('steps')]
    public function testAStepIsPreviewedLookedAtAndKept(array $step, string $says): void
    {
        $stored = $this->call('GET', '/api/studies/1/preparation')['variants'][0];
        $view = $this->preview([$step], 0);
        self::assertNull($view['problem'], (string) $view['problem']);
        self::assertStringContainsString($says, $view['steps'][0]['sentence']);
        self::assertNotSame([], $view['look']['columns']);
        self::assertNotNull($view['look']['look']);
        $before = $this->call('GET', '/api/studies/1/preparation')['variants'][0];
        self::assertSame($stored, $before, 'a preview stores nothing');
        $kept = $this->call('PUT', '/api/variants/'.$this->variant, ['steps' => [$step]], 200, ['If-Match' => (string) $before['version']]);
        self::assertSame($view['steps'][0]['toll'], $kept['steps'][0]['toll']);
        self::assertSame($view['steps'][0]['sentence'], $kept['steps'][0]['sentence']);
    }

    public function testALookShowsChangedRowsAndHowAColumnIsSpread(): void
    {
        $view = $this->preview([['step' => 'fill_missing', 'columns' => ['boiler_age'], 'mark' => true]], 0);
        $look = $view['look']['look'];
        $toll = $view['steps'][0]['toll'];
        self::assertSame($toll['missingBefore'] - $toll['missingAfter'], $look['changed']);
        self::assertSame(['boiler_age_was_missing'], $look['made']);
        self::assertSame(['boiler_age', null], [$look['rows'][0]['cells'][0]['column'], $look['rows'][0]['cells'][0]['before']]);
        self::assertNotNull($look['rows'][0]['cells'][0]['after']);
        self::assertSame($look['changed'], array_sum($look['spread']['after']) - array_sum($look['spread']['before']));
        // A step that is not finished shows what it may choose from.
        $view = $this->preview([['step' => 'set_aside', 'columns' => ['depot']], ['step' => 'fill_missing', 'columns' => []]], 1);
        self::assertSame(['Choose at least one column.', null], [$view['steps'][1]['problem'], $view['look']['look']]);
        self::assertNotContains('depot', array_column($view['look']['columns'], 'name'));
        self::assertContains('tenant', array_column($view['look']['columns'], 'levels', 'name')['tenure']);
    }

    public function testBinsAreLaidOverTheEventsShare(): void
    {
        $bins = $this->preview(
            [['step' => 'bins', 'columns' => ['days_ahead'], 'method' => 'own cut points', 'cuts' => [3, 9]]],
            0,
        )['look']['bins'];
        self::assertSame(['up to 3', 'over 3 to 9', 'over 9'], array_column($bins['bins'], 'label'));
        // The sealed 300 of 1,500 rows are not looked at.
        self::assertSame(
            [1200, 1200],
            [array_sum(array_column($bins['bins'], 'judged')), array_sum(array_column($bins['parts'], 'judged'))],
        );
        self::assertEqualsWithDelta($bins['value'], array_sum(array_column($bins['bins'], 'iv')), 1e-12);
        self::assertGreaterThan($bins['bins'][0]['woe'], $bins['bins'][2]['woe']);
    }

    public function testTheRuinousOrderIsShownWithItsLossAndTheBetterOneOffered(): void
    {
        $drop = ['step' => 'drop_rows', 'columns' => ['boiler_age', 'contact_channel']];
        $fill = ['step' => 'fill_missing', 'columns' => ['boiler_age'], 'method' => 'median'];
        $view = $this->preview([$drop, $fill]);
        $lost = 1500 - $view['rowsAfter'];
        self::assertGreaterThan(200, $lost);
        $moved = array_values(array_filter(
            $view['advice'],
            static fn (array $a) => str_starts_with($a['says'], 'Filling first, step 2 before step 1,'),
        ))[0];
        $better = $this->preview($moved['steps']);
        self::assertSame($moved['rows'], $better['rowsAfter'] - $view['rowsAfter']);
        self::assertStringContainsString(\sprintf('would keep %s rows that are lost now', number_format($moved['rows'])), $moved['says']);
        self::assertSame([], array_filter($better['advice'], static fn (array $a) => str_starts_with($a['says'], 'Filling first')));

        // Codes averaged: the fill learns another value once they are gone.
        $view = $this->preview([
            ['step' => 'fill_missing', 'columns' => ['travel_km', 'boiler_age'], 'method' => 'mean'],
            ['step' => 'recode', 'column' => 'travel_km', 'pairs' => [['-1', '']]],
        ]);
        self::assertMatchesRegularExpression(
            '/^Recoding first, step 2 before step 1, so that no code is averaged, would give [\d,]+ cells? another value\. The fill is then [\d.]+ instead of [\d.]+ for travel_km\.$/',
            $view['advice'][0]['says'],
        );
    }

    public function testAnImpossibleStepIsKeptAndTheOthersAreStillCounted(): void
    {
        $view = $this->preview([
            ['step' => 'set_aside', 'columns' => ['depot']],
            ['step' => 'formula', 'name' => 'x', 'formula' => 'depo + 1'],
            ['step' => 'set_aside', 'columns' => ['currency']],
        ]);
        self::assertStringContainsString('At letter 1: There is no column depo', $view['steps'][1]['problem']);
        self::assertSame(
            [null, 1],
            [$view['steps'][1]['toll'], $view['steps'][2]['toll']['columnsBefore'] - $view['steps'][2]['toll']['columnsAfter']],
        );
        self::assertStringContainsString('Step 2 cannot be done', $view['problem']);
    }

    public function testRowsThatAStepTakesOutAreNotLearnedFromAndListedAsNotScored(): void
    {
        $study = $this->study('Nobody home');
        $path = '/api/studies/'.$study['id'];
        $variant = $this->call('GET', $path.'/preparation')['variants'][0];
        $steps = [
            ['step' => 'recode', 'column' => 'travel_km', 'pairs' => [['-1', '']]],
            ['step' => 'drop_rows', 'columns' => ['travel_km']],
            ['step' => 'keep_rows', 'where' => [['days_ahead', 'is under', '15']]],
            ['step' => 'encode', 'columns' => ['district'], 'method' => 'share of the event'],
            ['step' => 'keep_only', 'columns' => ['travel_km', 'days_ahead', 'district']],
        ];
        $view = $this->call('PUT', '/api/variants/'.$variant['id'], ['steps' => $steps], 200, ['If-Match' => (string) $variant['version']]);
        self::assertLessThan(1500, $view['rowsAfter']);
        $this->call('POST', $path.'/trials', ['variantId' => $variant['id'], 'learner' => 'logistic'], 202);
        $this->work();
        $trials = $this->call('GET', $path.'/trials')['trials'];
        $trial = array_column($trials, null, 'number')[max([0, ...array_column($trials, 'number')])];
        self::assertSame('done', $trial['state']);
        self::assertGreaterThan(0, $trial['unanswered']);
        $bookings = "visit_id,travel_km,days_ahead,district\nA,10,3,Fenby\nB,-1,3,Fenby\nC,10,30,Fenby\nD,,2,Fenby\nE,4,2,Nowhere\n";
        $this->call('POST', $path.'/tables', ['uploadId' => $this->upload($bookings), 'name' => 'few'], 202);
        $this->work();
        $table = array_column($this->call('GET', $path.'/tables'), 'id', 'name')['few'];
        $match = $this->call('POST', $path.'/match', ['trialId' => $trial['id'], 'tableId' => $table]);
        self::assertSame(
            ['travel_km', 'days_ahead', 'district'],
            array_map(static fn (array $l) => $l['asked'], \array_slice($this->sorted($match['lines']), 0, 3)),
        );
        self::assertSame(3, $match['unscorable']);
        $job = $this->call('POST', $path.'/scorings', ['trialId' => $trial['id'], 'tableId' => $table, 'cutoff' => 0.3], 202);
        $this->work();
        $rows = array_column($this->call('GET', '/api/scorings/'.$job['subject'].'/rows')['rows'], 'why', 'number');
        ksort($rows);
        self::assertSame(
            [
                1 => null,
                2 => 'not scored: travel_km missing',
                3 => 'not scored: not days_ahead is under 15',
                4 => 'not scored: travel_km missing',
                5 => null,
            ],
            $rows,
        );
        $reasons = $this->call('GET', '/api/scorings/'.$job['subject'].'/reasons/3');
        self::assertNull($reasons['chance']);
    }

    public function testVariantsStandSideBySideAndTravelAsFiles(): void
    {
        $first = $this->call('GET', '/api/studies/1/preparation')['variants'][0];
        $steps = [
            ['step' => 'drop_rows', 'columns' => ['boiler_age']],
            ['step' => 'bins', 'columns' => ['days_ahead'], 'bins' => 3, 'note' => 'three are enough'],
        ];
        $this->call('POST', '/api/studies/1/variants', ['name' => 'wrong', 'steps' => [['step' => 'drop_rows']]], 422);
        $second = $this->call('POST', '/api/studies/1/variants', ['name' => 'Drop incomplete', 'steps' => $steps], 201);
        $beside = $this->call('GET', '/api/studies/1/preparation/compare?variants=A,'.$second['letter']);
        self::assertSame(
            [
                [$first['rowsAfter'], $first['columnsAfter'], $first['missingAfter']],
                [$second['rowsAfter'], $second['columnsAfter'], $second['missingAfter']],
            ],
            array_map(static fn (array $v) => [$v['rows'], $v['columns'], $v['missing']], $beside['variants']),
        );
        $days = array_column($beside['columns'], null, 'name')['days_ahead'];
        self::assertSame(['number', 'category'], $days['kinds']);
        self::assertSame([1500, $second['rowsAfter']], array_map(array_sum(...), $days['counts']));
        self::assertStringStartsWith('up to', $days['labels'][1][0]);
        foreach (['A', '', 'A,Z'] as $too) {
            $this->call('GET', '/api/studies/1/preparation/compare?variants='.$too, null, 422);
        }

        $this->client->request('GET', '/api/variants/'.$second['id'].'/file');
        self::assertStringContainsString(
            'preparation_'.$second['letter'].'.json',
            (string) $this->client->getResponse()->headers->get('Content-Disposition'),
        );
        $file = json_decode((string) $this->client->getResponse()->getContent(), true);
        \assert(\is_array($file));
        self::assertSame(
            ['dokimos-preparation/1', 'Drop incomplete', 'three are enough'],
            [$file['schema'], $file['name'], $file['steps'][1]['note']],
        );
        $third = $this->call('POST', '/api/studies/1/variants', ['name' => $file['name'], 'steps' => $file['steps']], 201);
        self::assertSame(array_column($second['steps'], 'toll'), array_column($third['steps'], 'toll'));

        $this->call('DELETE', '/api/variants/'.$third['id'], null, 204);
        self::assertNotContains($third['letter'], array_column($this->call('GET', '/api/studies/1/preparation')['variants'], 'letter'));
        $only = $this->call('GET', '/api/studies/2/preparation')['variants'];
        self::assertStringContainsString('trials', $this->call('DELETE', '/api/variants/'.$only[0]['id'], null, 409)['title']);

        // What is published says what is accepted, and nothing else.
        $schema = json_decode((string) file_get_contents(\dirname(__DIR__, 2).'/docs/schemas/preparation-1.json'), true);
        \assert(\is_array($schema));
        $published = array_map(static fn (array $s) => $s['properties']['step']['const'], $schema['$defs']['step']['oneOf']);
        self::assertSame(array_column($this->call('GET', '/api/steps')['steps'], 'step'), $published);
    }

    public function testTheTollOfALargeTableIsASampleAtOnceAndExactAfterTheQueue(): void
    {
        $csv = "a,b\n";
        for ($row = 0; $row < 140_000; ++$row) {
            // The last frames, which a sample spread evenly sees as often as others, alone have holes.
            $csv .= ($row >= 139_001 ? '' : $row % 50).",x\n";
        }
        $study = $this->call('POST', '/api/studies', ['name' => 'Many rows'], 201)['id'];
        $this->call('POST', "/api/studies/$study/tables", ['uploadId' => $this->upload($csv), 'name' => 'many'], 202);
        $this->work();
        $variant = $this->call('GET', "/api/studies/$study/preparation")['variants'][0];
        $steps = [['step' => 'drop_rows', 'columns' => ['a']]];
        $ask = fn (array $steps): array => $this->call(
            'POST',
            '/api/variants/'.$variant['id'].'/preview',
            ['steps' => $steps, 'look' => 0],
        );
        $before = $ask($steps);
        self::assertTrue($before['approximate']);
        $job = $this->call('POST', '/api/variants/'.$variant['id'].'/count', ['steps' => $steps], 202);
        self::assertSame(
            $job['id'],
            $this->call('POST', '/api/variants/'.$variant['id'].'/count', ['steps' => $steps], 202)['id'],
            'asked twice, counted once',
        );
        $this->work();
        $after = $ask([$steps[0] + ['note' => 'why']]);
        self::assertSame(139_001, $after['completeAfter']);
        self::assertSame(
            [false, 140_000, 139_001, 999, 0, 'why'],
            [
                $after['approximate'],
                $after['rowsBefore'],
                $after['rowsAfter'],
                $after['missingBefore'],
                $after['missingAfter'],
                $after['steps'][0]['note'],
            ],
        );
        self::assertNotNull($after['look']['look']);
        self::assertTrue($ask([['step' => 'drop_rows', 'columns' => ['b']]])['approximate'], 'other steps are not counted yet');
        $this->call('POST', '/api/variants/'.$variant['id'].'/count', ['steps' => []], 202);
        $this->call('POST', '/api/variants/'.$variant['id'].'/count', ['steps' => [['step' => 'drop_columns']]], 202);
        self::assertSame(
            ['cancelled', 'waiting'],
            [$this->call('GET', '/api/jobs')[1]['state'], $this->call('GET', '/api/jobs')[0]['state']],
            'what nobody waits for is not counted',
        );
    }

    /**
     * @param array<mixed> $lines
     *
     * @return list<array<mixed>>
     */
    private function sorted(array $lines): array
    {
        $order = ['travel_km' => 0, 'days_ahead' => 1, 'district' => 2];
        /** @var list<array{asked: string}> $lines */
        usort($lines, static fn (array $a, array $b) => ($order[$a['asked']] ?? 9) <=> ($order[$b['asked']] ?? 9));

        return $lines;
    }
}
