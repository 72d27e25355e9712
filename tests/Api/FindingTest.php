<?php

declare(strict_types=1);

namespace App\Tests\Api;

use Doctrine\DBAL\Connection;

/** Findings of the demo over HTTP: found, mended, settled, kept. */
final class FindingTest extends ApiTestCase
{
    /** @return array<string, array<mixed>> by key */
    private function findings(int $table = 1): array
    {
        return array_column($this->call('GET', "/api/tables/$table/findings")['findings'], null, 'key');
    }

    /** @param array<string, mixed> $change */
    private function change(string $column, array $change): void
    {
        $columns = array_column($this->call('GET', '/api/tables/1')['columns'], null, 'name');
        $this->call('PATCH', '/api/columns/'.$columns[$column]['id'], $change, 200, ['If-Match' => (string) $columns[$column]['version']]);
    }

    public function testAnyColumnCanBeAskedWhatGoesWithIt(): void
    {
        $this->signIn();
        $about = fn (string $column, int $status = 200): array => $this->call(
            'GET',
            "/api/tables/1/goes-with?column=$column",
            null,
            $status,
        );
        $age = $about('boiler_age');
        self::assertSame(['boiler_age', 'number', null], [$age['target'], $age['task'], $age['event']]);
        $told = array_column($age['relations'], null, 'column');
        self::assertArrayNotHasKey('boiler_age', $told);
        self::assertSame('free text', $told['booking_note']['leftOut']);
        $slot = $about('slot');
        self::assertSame(['several classes', []], [$slot['task'], $slot['rules']]);
        // The depot follows from the district.
        $district = $about('district')['relations'][0];
        self::assertSame('depot', $district['column']);
        self::assertGreaterThan(0.9, $district['alone']);
        // The target itself is asked about on rows that are not sealed, as it is without being named.
        $target = $about('return_visit');
        $usual = $this->call('GET', '/api/tables/1/findings');
        self::assertSame($usual['judged'], $target['judged']);
        self::assertSame('yes', $target['event']);
        self::assertSame(
            array_column($usual['relations'], 'alone', 'column')['days_ahead'],
            array_column($target['relations'], 'alone', 'column')['days_ahead'],
        );
        // It is kept, and worked out anew once a column is read otherwise.
        self::assertSame($age, $about('boiler_age'));
        $this->change('tenure', ['use' => 'set aside']);
        self::assertSame('set aside', array_column($about('boiler_age')['relations'], null, 'column')['tenure']['leftOut']);
        $about('nothing', 422);
        $about('booking_note', 422);
        $about('visit_id', 422);
    }

    public function testThePlantedBlemishesAreFoundWithRecordsBehindThem(): void
    {
        $this->signIn();
        $found = $this->findings();
        foreach ([
            'missing: boiler_age',
            'mostly missing: access_code',
            'missing: contact_channel',
            'near copy: district, depot',
            'constant: currency',
            'skew: quoted_cost',
            'missing code: travel_km',
            'repeated keys: household_id',
            'imbalance: return_visit',
        ] as $key) {
            self::assertArrayHasKey($key, $found);
        }
        $severities = array_column($found, 'severity');
        $sorted = $severities;
        usort(
            $sorted,
            static fn (string $a, string $b) => ['high' => 0, 'medium' => 1, 'low' => 2][$a] <=> ['high' => 0, 'medium' => 1, 'low' => 2][$b],
        );
        self::assertSame($sorted, $severities);
        foreach ($found['missing code: travel_km']['rows'] as $number) {
            $row = $this->call('GET', '/api/tables/1/rows?limit=1&offset='.($number - 1));
            self::assertSame('-1', $row['rows'][0]['cells'][(int) array_search('travel_km', $row['names'], true)]);
            break;
        }
        self::assertStringStartsWith("\u{2212}1 in ", $found['missing code: travel_km']['short']);
        self::assertSame('near copy of district', $found['near copy: district, depot']['short']);
        self::assertSame('depot', $found['near copy: district, depot']['remedies'][0]['column']);
    }

    public function testThresholdsAreSetForAStudy(): void
    {
        $this->signIn();
        self::assertArrayHasKey('skew: quoted_cost', $this->findings());
        $values = array_column($this->call('GET', '/api/studies/1/thresholds'), 'value', 'name');
        self::assertSame(2.0, (float) $values['skewness']);
        $changed = array_column(
            $this->call('PUT', '/api/studies/1/thresholds', ['values' => ['skewness' => 50, 'missing_share' => 0.05]]),
            null,
            'name',
        );
        self::assertSame([50.0, 2.0], [(float) $changed['skewness']['value'], (float) $changed['skewness']['usual']]);
        self::assertArrayNotHasKey('skew: quoted_cost', $this->findings());
        self::assertStringContainsString(
            'Thresholds of findings: skewness 50.',
            json_encode($this->call('GET', '/api/studies/1/logbook'), \JSON_THROW_ON_ERROR),
        );
        self::assertStringContainsString(
            'There is no threshold called',
            $this->call('PUT', '/api/studies/1/thresholds', ['values' => ['luck' => 1]], 422)['title'],
        );
        self::assertStringContainsString(
            'from 0 on to 1, a share',
            $this->call('PUT', '/api/studies/1/thresholds', ['values' => ['missing_share' => 5]], 422)['title'],
        );
        $this->call('PUT', '/api/studies/1/thresholds', ['values' => ['skewness' => 'much']], 422);
        $this->call('PUT', '/api/studies/1/thresholds', ['values' => []]);
        self::assertArrayHasKey('skew: quoted_cost', $this->findings(), 'as usual again');
    }

    public function testALateColumnIsSuspectedUntilItIsSaidToBeLate(): void
    {
        $this->signIn();
        self::assertArrayNotHasKey('leak suspicion: outcome', $this->findings(), 'the demo says that it is known only afterwards');
        $this->change('outcome', ['known' => true]);
        $found = $this->findings();
        self::assertSame('high', $found['leak suspicion: outcome']['severity']);
        self::assertSame('gives it away', $found['leak suspicion: outcome']['short']);
        self::assertStringContainsString('Was it known when the decision is made?', $found['leak suspicion: outcome']['sentence']);
        self::assertSame(['known afterwards', 'set aside'], array_column($found['leak suspicion: outcome']['remedies'], 'do'));
        $this->change('outcome', ['known' => false]);
        self::assertArrayNotHasKey('leak suspicion: outcome', $this->findings());
    }

    public function testEveryRemedyThatChangesAColumnMendsItsFinding(): void
    {
        $this->signIn();
        $this->change('outcome', ['known' => true]);
        $this->change('boiler_class', ['kind' => 'number']);
        foreach ([
            'leak suspicion: outcome' => ['known' => false],
            'numbers like codes: boiler_class' => ['kind' => 'category'],
        ] as $key => $remedy) {
            $finding = $this->findings()[$key];
            $this->change($finding['remedies'][0]['column'], $remedy);
            self::assertArrayNotHasKey($key, $this->findings());
        }
    }

    public function testWhatGoesWithTheTargetIsRankedOnUnsealedRows(): void
    {
        $this->signIn();
        $view = $this->call('GET', '/api/tables/1/findings');
        self::assertSame(['return_visit', 'yes', 1200, 1500], [$view['target'], $view['event'], $view['judged'], $view['rows']]);
        $relations = array_column($view['relations'], null, 'column');
        self::assertTrue($relations['outcome']['late']);
        self::assertGreaterThan(0.95, $relations['outcome']['alone']);
        self::assertSame('a key', $relations['visit_id']['leftOut']);
        self::assertArrayNotHasKey('return_visit', $relations);
        $aucs = array_filter(array_column($view['relations'], 'alone'), is_float(...));
        $sorted = $aucs;
        rsort($sorted);
        self::assertSame($sorted, array_values($aucs));
        // Whatever the sealed rows hold: their outcomes are not looked at.
        $sealed = $this->service(Connection::class);
        self::assertSame(300, $this->call('GET', '/api/studies/1')['sealedRows']);
        self::assertSame(
            1,
            (int) $sealed->fetchOne('SELECT COUNT(*) FROM finding_document WHERE table_id = 1'),
            'kept until something changes',
        );
    }

    public function testSettlingNeedsAReasonIsLoggedAndCanBeTakenBack(): void
    {
        $this->signIn();
        $key = 'constant: currency';
        $path = '/api/tables/1/findings/settle';
        self::assertStringContainsString('Say why', $this->call('POST', $path, ['key' => $key, 'reason' => '  '], 422)['title']);
        $this->call('POST', $path, ['key' => 'constant: luck', 'reason' => 'x'], 404);
        $this->call('POST', $path, ['key' => $key, 'reason' => str_repeat('x', 400)], 422);
        self::assertNull($this->findings()[$key]['dismissed']);
        $view = $this->call('POST', $path, ['key' => $key, 'reason' => 'We only work in one country.']);
        $settled = array_column($view['findings'], null, 'key')[$key]['dismissed'];
        self::assertSame(['We only work in one country.', 'Mara Kell'], [$settled['reason'], $settled['who']]);
        self::assertStringContainsString(
            'Finding settled: currency is "EUR"',
            $this->call('GET', '/api/studies/1/logbook')['entries'][0]['sentence'],
        );
        $this->change('slot', ['use' => 'set aside']);
        self::assertNotNull($this->findings()[$key]['dismissed'], 'it stays settled when something else changes');
        $this->call('POST', $path, ['key' => $key]);
        self::assertNull($this->findings()[$key]['dismissed']);
        self::assertStringContainsString('Finding opened again', $this->call('GET', '/api/studies/1/logbook')['entries'][0]['sentence']);
    }

    public function testATableWithoutATargetHasFindingsToo(): void
    {
        $this->signIn();
        $tables = array_column($this->call('GET', '/api/studies/1/tables'), 'id', 'name');
        $view = $this->call('GET', '/api/tables/'.$tables['households'].'/findings');
        self::assertSame([], $view['relations']);
        self::assertSame(0, $view['judged']);
        self::assertContains('all distinct', array_column($view['findings'], 'sort'));
    }
}
