<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Tests\Fixture;
use Dokimos\Core\Tests\PostgresCluster;

/** From scored records to a list: money, capacity, tiers, comparison, files. */
final class DecisionTest extends ApiTestCase
{
    private int $study;
    private int $scoring;

    protected function setUp(): void
    {
        $_SERVER['DOKIMOS_POSTGRES_HOSTS'] = $_ENV['DOKIMOS_POSTGRES_HOSTS'] = '127.0.0.1:'.PostgresCluster::port().' disable';
        parent::setUp();
        $this->signIn();
        $study = $this->study('Return visits');
        $this->study = (int) $study['id'];
        $variant = $this->call('GET', "/api/studies/$this->study/preparation")['variants'][0]['id'];
        $tried = $this->call(
            'POST',
            "/api/studies/$this->study/trials",
            ['variantId' => $variant, 'learner' => 'tree', 'settings' => ['depth' => 5]],
            202,
        );
        $this->work();
        $table = array_column($this->call('GET', "/api/studies/$this->study/tables"), 'id', 'name')['bookings'];
        $job = $this->call(
            'POST',
            "/api/studies/$this->study/scorings",
            ['trialId' => $tried['subject'], 'tableId' => $table, 'cutoff' => 0.2],
            202,
        );
        $this->work();
        $this->scoring = (int) $job['subject'];
    }

    protected function tearDown(): void
    {
        $_SERVER['DOKIMOS_POSTGRES_HOSTS'] = $_ENV['DOKIMOS_POSTGRES_HOSTS'] = '';
        parent::tearDown();
    }

    private const TERMS = [
        'cost' => 6.5,
        'works' => 0.36,
        'worksLow' => 0.26,
        'worksHigh' => 0.46,
        'worthColumn' => 'quoted_cost',
        'kept' => 0.7,
        'chanceEdges' => [0.15, 0.4],
        'valueEdges' => [60, 120],
    ];

    /**
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    private function make(array $more = []): array
    {
        return $this->call('POST', "/api/scorings/$this->scoring/decisions", ['name' => 'Calls', 'terms' => $more + self::TERMS], 201);
    }

    public function testTheListIsWhatTheTermsSay(): void
    {
        $made = $this->make(['most' => 60]);
        self::assertSame(60, $made['acted']['actions']);
        self::assertEqualsWithDelta(60 * 6.5, $made['acted']['cost'], 1e-9);
        self::assertGreaterThan($made['acted']['return'], $made['best']['return']);
        self::assertLessThan($made['acted']['return'], $made['drawn']['low']);
        self::assertGreaterThan($made['acted']['return'], $made['drawn']['high']);
        // By hand, from the rows.
        $rows = $this->call('GET', "/api/decisions/{$made['id']}/rows?which=all&limit=500&carry[]=quoted_cost&carry[]=visit_id")['rows'];
        $sum = 0.0;
        $last = \INF;
        foreach ($rows as $k => $row) {
            $return = $row['chance'] * 0.36 * 0.7 * (float) $row['cells'][1] - 6.5;
            self::assertEqualsWithDelta($return, $row['return'], 1e-9);
            self::assertLessThanOrEqual($last, $row['return']);
            $last = $row['return'];
            self::assertSame($k < 60 ? $k + 1 : null, $row['place']);
            $sum += $k < 60 ? $return : 0.0;
        }
        self::assertEqualsWithDelta($sum, $made['acted']['return'], 1e-6);
        self::assertSame(\count($rows) + $made['unknown'], $made['scored']);
        // Tiers add up to the whole.
        self::assertSame(60, array_sum(array_column($made['cells'], 'acted')));
        self::assertEqualsWithDelta($sum, array_sum(array_column($made['cells'], 'return')), 1e-6);
        self::assertEqualsWithDelta($sum, array_sum(array_map(static fn (array $t) => $t['figures']['return'], $made['tiers'])), 1e-6);
        self::assertSame(60, array_sum($made['actedBy']));
        // The curve begins at nothing and passes through its highest point.
        self::assertSame([0, 0.0], [$made['curve'][0]['actions'], (float) $made['curve'][0]['return']]);
        $by = array_column($made['curve'], 'return', 'actions');
        self::assertEqualsWithDelta(max([0.0, ...array_values($by)]), $by[$made['paying']], 1e-9);
        self::assertEqualsWithDelta($made['best']['return'], max([0.0, ...array_values($by)]), 1e-6);
    }

    public function testTermsAreChangedUnderAVersionAndNothingOfTheScoredTable(): void
    {
        $before = $this->call('GET', "/api/scorings/$this->scoring");
        $made = $this->make();
        $path = "/api/decisions/{$made['id']}";
        $terms = ['cost' => 20.0] + self::TERMS;
        $this->call('PUT', $path, ['terms' => $terms], 428);
        $version = ['If-Match' => (string) $made['version']];
        $dear = $this->call('PUT', $path, ['name' => 'Dear calls', 'terms' => $terms], 200, $version);
        self::assertSame('Dear calls', $dear['name']);
        self::assertLessThan($made['paying'], $dear['paying']);
        $late = $this->call('PUT', $path, ['terms' => self::TERMS], 412, $version);
        self::assertSame('Dear calls', $late['current']['name']);
        self::assertEquals($dear, $this->call('GET', $path));
        self::assertSame($before, $this->call('GET', "/api/scorings/$this->scoring"));
        self::assertCount(1, $this->call('GET', "/api/scorings/$this->scoring/decisions"));
        $log = array_column($this->call('GET', "/api/studies/$this->study/logbook")['entries'], 'sentence');
        self::assertStringContainsString('an action costs 20', implode("\n", $log));
        $this->call('DELETE', $path, null, 204);
        $this->call('GET', $path, null, 404);
    }

    public function testWhatDoesNotFitIsSaid(): void
    {
        $wrong = [
            'works' => [['works' => 0.9], 'between its least and its most'],
            'worthColumn' => [['worthColumn' => 'slot'], 'slot is no column of numbers'],
            'eachBy' => [['each' => 3, 'eachBy' => 'no such'], 'Choose the column'],
            'cost' => [['cost' => -1], 'nothing or more'],
            'share' => [['share' => 0.9], 'half'],
            'chanceEdges' => [['chanceEdges' => [0.4, 0.2]], 'rise'],
        ];
        foreach ($wrong as $name => [$more, $says]) {
            $said = $this->call('POST', "/api/scorings/$this->scoring/decisions", ['terms' => $more + self::TERMS], 422);
            self::assertStringContainsString($says, $said['title'], $name);
        }
        self::assertSame([], $this->call('GET', "/api/scorings/$this->scoring/decisions"));
    }

    public function testCapacityForEachDayAndAGroupLeftUntouched(): void
    {
        $made = $this->make(['each' => 4, 'eachBy' => 'visit_date', 'share' => 0.2]);
        $rows = $this->call('GET', "/api/decisions/{$made['id']}/rows?which=all&limit=500&carry[]=visit_date")['rows'];
        $days = $left = [];
        foreach ($rows as $row) {
            if (null !== $row['place']) {
                $days[$row['cells'][0]] = ($days[$row['cells'][0]] ?? 0) + 1;
                self::assertFalse($row['left']);
            }
            $left[] = $row['left'] ? 1 : 0;
        }
        self::assertLessThanOrEqual(4, max([0, ...array_values($days)]));
        self::assertSame($made['left'], array_sum($left));
        self::assertGreaterThan(0, $made['left']);
        self::assertSame($made['left'], $this->call('GET', "/api/decisions/{$made['id']}/rows?which=left")['total']);
        // Every list that is taken along tells who was left.
        $file = $this->file($made['id'], []);
        self::assertSame($made['left'], substr_count($file, 'left untouched'));
        self::assertSame($file, $this->file($made['id'], []), 'the same bytes again');
    }

    /** @param array<string, mixed> $body */
    private function file(int $id, array $body): string
    {
        ob_start();
        $this->call('POST', "/api/decisions/$id/file", $body);
        ob_end_clean();

        return $this->client->getInternalResponse()->getContent();
    }

    public function testAMeasuredEffect(): void
    {
        $made = $this->make(['share' => 0.3]);
        $rows = $this->call('GET', "/api/decisions/{$made['id']}/rows?which=all&limit=500&carry[]=visit_id")['rows'];
        $lines = ["visit_id,came\n"];
        $acted = $left = 0;
        foreach ($rows as $row) {
            // Half of those left untouched had the event, a quarter of those acted on.
            if ($row['left']) {
                $lines[] = $row['cells'][0].','.(0 === $left++ % 2 ? 'yes' : 'no')."\n";
            } elseif (null !== $row['place']) {
                $lines[] = $row['cells'][0].','.(0 === $acted++ % 4 ? 'yes' : 'no')."\n";
            }
        }
        $upload = $this->upload(implode('', $lines), 'later.csv');
        $this->call('POST', "/api/studies/$this->study/tables", ['uploadId' => $upload, 'name' => 'later'], 202);
        $this->work();
        $later = array_column($this->call('GET', "/api/studies/$this->study/tables"), 'id', 'name')['later'];
        $asked = ['tableId' => $later, 'outcome' => 'came', 'event' => 'yes', 'key' => 'visit_id'];
        $told = $this->call('POST', "/api/decisions/{$made['id']}/measure", $asked)['measured'];
        self::assertSame([$acted, $left, 0], [$told['acted'], $told['left'], $told['missing']]);
        self::assertEqualsWithDelta(0.5, $told['works']['value'], 0.05);
        self::assertLessThan($told['works']['high'], $told['works']['value']);
        $this->call('POST', "/api/decisions/{$made['id']}/measure", ['key' => 'district'] + $asked, 422);
        $none = $this->make();
        $this->call('POST', "/api/decisions/{$none['id']}/measure", $asked, 422);
    }

    public function testTheListIsTakenAlongWithColumnsChosenNamedAndOrdered(): void
    {
        $made = $this->make(['most' => 25]);
        $columns = [['of' => '=return', 'as' => 'worth it'], ['of' => 'visit_id', 'as' => 'booking'], ['of' => '=tier', 'as' => '']];
        $csv = $this->file($made['id'], ['columns' => $columns]);
        $lines = explode("\r\n", trim($csv));
        self::assertSame('worth it,booking,tier', $lines[0]);
        self::assertCount(26, $lines);
        $json = explode("\n", trim($this->file($made['id'], ['columns' => $columns, 'format' => 'jsonl'])));
        self::assertSame(['worth it', 'booking', 'tier'], array_keys((array) json_decode($json[0], true)));
        self::assertIsFloat(json_decode($json[0], true)['worth it'] ?? null);
        $twice = [['of' => '=return', 'as' => 'a'], ['of' => '=chance', 'as' => 'a']];
        $this->call('POST', "/api/decisions/{$made['id']}/file", ['columns' => $twice], 422);
        $this->call('POST', "/api/decisions/{$made['id']}/file", ['columns' => [['of' => 'nothing', 'as' => 'a']]], 422);
    }

    public function testTheCommandLineWritesTheSameBytes(): void
    {
        $made = $this->make(['each' => 5, 'eachBy' => 'visit_date', 'share' => 0.1]);
        $carry = implode('&', array_map(static fn (string $c): string => 'carry[]='.$c, ['visit_id', 'visit_date', 'quoted_cost']));
        $folder = sys_get_temp_dir().'/dokimos-list-'.bin2hex(random_bytes(4));
        mkdir($folder);
        $this->client->request('GET', "/api/scorings/$this->scoring/file?full=1&$carry");
        file_put_contents($folder.'/scored.csv', $this->client->getInternalResponse()->getContent());
        file_put_contents($folder.'/terms.json', json_encode($made['terms'], \JSON_THROW_ON_ERROR));
        $told = json_decode(Fixture::console([
            'dokimos:decide',
            $folder.'/scored.csv',
            '--chance=return_visit_chance',
            '--id=visit_id',
            '--terms='.$folder.'/terms.json',
            '--list='.$folder.'/list.csv',
            '--json',
        ])->getOutput(), true, 512, \JSON_THROW_ON_ERROR);
        $written = (string) file_get_contents($folder.'/list.csv');
        array_map(unlink(...), glob($folder.'/*') ?: []);
        rmdir($folder);
        self::assertSame($this->file($made['id'], []), $written);
        self::assertSame([$made['acted']['actions'], $made['left']], [$told['actions'] ?? null, $told['left'] ?? null]);
        self::assertEqualsWithDelta($made['acted']['return'], $told['expected_return'] ?? null, 1e-6);
    }

    public function testTheListIsWrittenToADatabaseAndRepeatingItDoublesNothing(): void
    {
        $connection = $this->call('POST', '/api/connections', [
            'host' => '127.0.0.1:'.PostgresCluster::port(),
            'database' => 'company',
            'login' => PostgresCluster::READER,
            'password' => PostgresCluster::PASSWORD,
        ], 201)['id'];
        $made = $this->make(['most' => 40]);
        $path = "/api/decisions/{$made['id']}/export";
        $asked = [
            'connectionId' => $connection,
            'table' => 'calls',
            'columns' => [['of' => 'visit_id', 'as' => 'booking'], ['of' => '=return', 'as' => 'worth']],
        ];
        $plan = $this->call('POST', $path.'/plan', $asked);
        self::assertSame(
            [['booking', 'worth'], ['text', 'double precision'], 40, null],
            [$plan['names'], $plan['types'], $plan['records'], $plan['there']],
        );
        self::assertStringContainsString('permission denied', $this->call('POST', $path, $asked, 422)['title']);
        $this->entities()->createQuery('UPDATE App\Source\DatabaseConnection c SET c.login = :w, c.database = :d')
            ->setParameters(['w' => PostgresCluster::WRITER, 'd' => 'lists'])->execute();
        $this->entities()->clear();
        $done = $this->call('POST', $path, $asked);
        self::assertSame([40, 40], [$done['written'], $done['holds']]);
        self::assertStringContainsString('There is a table calls already', $this->call('POST', $path, $asked, 422)['title']);
        $append = ['mode' => 'append', 'key' => 'booking'] + $asked;
        self::assertSame([0, 40], array_values(array_intersect_key($this->call('POST', $path, $append), ['written' => 1, 'holds' => 1])));
        self::assertSame($done['checksum'], $this->call('POST', $path, ['mode' => 'replace'] + $asked)['checksum']);
        self::assertSame(['booking', 'worth'], $this->call('POST', $path.'/plan', $asked)['there']);
        // As a file of its own.
        $this->call('POST', $path, ['connectionId' => null] + $asked);
        $file = (string) tempnam(sys_get_temp_dir(), 'list');
        file_put_contents($file, $this->client->getInternalResponse()->getContent());
        $rows = (new \PDO('sqlite:'.$file))->query('SELECT count(*), sum(worth) FROM calls');
        [$count, $sum] = false === $rows ? [0, 0.0] : $rows->fetchAll(\PDO::FETCH_NUM)[0];
        unlink($file);
        self::assertSame(40, $count);
        self::assertEqualsWithDelta($made['acted']['return'], $sum, 0.01);
        $this->call('POST', $path.'/plan', ['connectionId' => 999] + $asked, 404);
        $this->call('POST', $path.'/plan', ['table' => 'a"; DROP TABLE x'] + $asked, 422);
    }

    public function testTwoTrialsAnswersForTheSameRecordsStandBesideEachOther(): void
    {
        $variant = $this->call('GET', "/api/studies/$this->study/preparation")['variants'][0]['id'];
        $second = $this->call(
            'POST',
            "/api/studies/$this->study/trials",
            ['variantId' => $variant, 'learner' => 'logistic'],
            202,
        )['subject'];
        $this->work();
        $table = $this->call('GET', "/api/scorings/$this->scoring")['tableId'];
        $asked = ['trialId' => $second, 'tableId' => $table, 'cutoff' => 0.2];
        $other = $this->call('POST', "/api/studies/$this->study/scorings", $asked, 202)['subject'];
        $this->work();
        $told = $this->call('GET', "/api/scorings/$this->scoring/beside?other=$other");
        $rows = static fn (array $page): array => array_column($page['rows'], null, 'number');
        $both = [];
        for ($offset = 0; $offset < 400; $offset += 200) {
            $both[0] = ($both[0] ?? []) + $rows($this->call('GET', "/api/scorings/$this->scoring/rows?limit=200&offset=$offset"));
            $both[1] = ($both[1] ?? []) + $rows($this->call('GET', "/api/scorings/$other/rows?limit=200&offset=$offset"));
        }
        $alike = $n = $onlyFirst = 0;
        $far = [];
        foreach ($both[0] as $number => $row) {
            if (null !== $row['chance'] && null !== $both[1][$number]['chance']) {
                ++$n;
                $alike += $row['called'] === $both[1][$number]['called'] ? 1 : 0;
                $onlyFirst += $row['called'] && !$both[1][$number]['called'] ? 1 : 0;
                $far[$number] = abs($row['chance'] - $both[1][$number]['chance']);
            }
        }
        self::assertSame([$n, $onlyFirst], [$told['both'], $told['onlyFirst']]);
        self::assertEqualsWithDelta($alike / $n, $told['agree'], 1e-12);
        self::assertEqualsWithDelta(array_sum($far) / $n, $told['apart'], 1e-9);
        arsort($far);
        self::assertEqualsWithDelta(reset($far), $far[$told['most'][0]['number']], 1e-12);
        self::assertGreaterThan(0.2, $told['ranks']);
        $this->call('GET', "/api/scorings/$this->scoring/beside?other=999", null, 404);
    }

    public function testANumberIsActedAgainstOverALimit(): void
    {
        $study = $this->study('Minutes on site');
        $trial = array_values(array_filter($study['trials'], static fn (array $t): bool => 'Baseline' !== $t['title']))[0]['id'];
        $asked = ['trialId' => $trial, 'tableId' => $study['tableId'], 'cutoff' => 0.5];
        $scoring = $this->call('POST', "/api/studies/{$study['id']}/scorings", $asked, 202)['subject'];
        $this->work();
        $made = $this->call('POST', "/api/scorings/$scoring/decisions", ['name' => ''], 201);
        self::assertSame('List', $made['name']);
        self::assertIsNumeric($made['terms']['limit']);
        $limit = 80.0;
        $terms = ['limit' => $limit, 'cost' => 3, 'worth' => 40, 'works' => 0.5, 'worksLow' => 0.5, 'worksHigh' => 0.5];
        $over = $this->call('POST', "/api/scorings/$scoring/decisions", ['terms' => ['side' => 'over'] + $terms], 201);
        $under = $this->call('POST', "/api/scorings/$scoring/decisions", ['terms' => ['side' => 'under'] + $terms], 201);
        $chances = [];
        foreach ([$over, $under] as $k => $one) {
            for ($offset = 0; $offset < 1500; $offset += 500) {
                foreach ($this->call('GET', "/api/decisions/{$one['id']}/rows?which=all&limit=500&offset=$offset")['rows'] as $row) {
                    $chances[$row['number']][$k] = $row['chance'];
                }
            }
        }
        $both = array_filter($chances, static fn (array $c): bool => 2 === \count($c));
        self::assertNotEmpty($both);
        foreach ($both as $c) {
            self::assertEqualsWithDelta(1.0, array_sum($c), 1e-9, 'over and under are each the other way round');
        }
        self::assertGreaterThan(0.0, $over['acted']['return'] + $under['acted']['return']);
        $this->call('POST', "/api/scorings/$scoring/decisions", ['terms' => ['limit' => null] + $terms], 422);
    }

    public function testOfSeveralClassesEachRecordGetsAnAction(): void
    {
        $id = $this->study;
        $version = ['If-Match' => (string) $this->call('GET', "/api/studies/$id")['version']];
        $this->call('PUT', "/api/studies/$id/target", ['column' => 'outcome', 'task' => 'several classes'], 200, $version);
        $variant = $this->call('GET', "/api/studies/$id/preparation")['variants'][0]['id'];
        $trial = $this->call('POST', "/api/studies/$id/trials", ['variantId' => $variant, 'learner' => 'tree'], 202)['subject'];
        $this->work();
        $table = array_column($this->call('GET', "/api/studies/$id/tables"), 'id', 'name')['bookings'];
        $scoring = $this->call(
            'POST',
            "/api/studies/$id/scorings",
            ['trialId' => $trial, 'tableId' => $table, 'cutoff' => 0.5],
            202,
        )['subject'];
        $this->work();
        $classes = array_column($this->call('GET', "/api/scorings/$scoring")['classes'], 'name');
        $amounts = static fn (float $else, array $of): array => array_map(static fn (string $c): float => $of[$c] ?? $else, $classes);
        $actions = [
            ['name' => 'call', 'amounts' => $amounts(-2.0, ['no access' => 30.0])],
            ['name' => 'bring parts', 'amounts' => $amounts(-4.0, ['part missing' => 45.0])],
        ];
        $terms = ['actions' => $actions, 'nothing' => array_fill(0, \count($classes), 0.0)];
        $made = $this->call('POST', "/api/scorings/$scoring/decisions", ['terms' => $terms], 201);
        self::assertNull($made['drawn']);
        self::assertSame($made['acted']['actions'], array_sum(array_column($made['actions'], 'records')));
        self::assertEqualsWithDelta($made['acted']['return'], array_sum(array_column($made['actions'], 'return')), 1e-6);
        $shares = [];
        foreach ($this->call('GET', "/api/scorings/$scoring/rows?limit=200")['rows'] as $row) {
            $shares[$row['number']] = $row['shares'];
        }
        $checked = 0;
        foreach ($this->call('GET', "/api/decisions/{$made['id']}/rows?which=all&limit=400")['rows'] as $row) {
            if (!isset($shares[$row['number']])) {
                continue;
            }
            $expected = array_map(
                static fn (array $a): float => array_sum(array_map(
                    static fn (float $s, float $m): float => $s * $m,
                    $shares[$row['number']],
                    $a['amounts'],
                )),
                $actions,
            );
            self::assertEqualsWithDelta(max($expected), $row['return'], 1e-9);
            self::assertSame($actions[array_keys($expected, max($expected), true)[0]]['name'], $row['action']);
            ++$checked;
        }
        self::assertGreaterThan(50, $checked);
        self::assertStringContainsString('call', $this->file($made['id'], []));
        $this->call('POST', "/api/scorings/$scoring/decisions", ['terms' => ['nothing' => [0]] + $terms], 422);
        $assumed = $this->call('POST', "/api/scorings/$scoring/decisions", [], 201);
        self::assertCount(1, $assumed['terms']['actions']);
    }

    public function testTheSheetIsForThoseWhoAct(): void
    {
        $made = $this->make(['each' => 3, 'eachBy' => 'visit_date']);
        $sheet = $this->raw("/api/decisions/{$made['id']}/sheet?carry[]=district");
        self::assertSame($made['acted']['actions'], substr_count($sheet, '<td class="box">'));
        self::assertStringContainsString('<h2>', $sheet);
        foreach (['model', 'AUC', 'logistic', 'cut-off', '<script', 'http://', 'https://'] as $word) {
            self::assertStringNotContainsString($word, $sheet);
        }
    }

    private function raw(string $path): string
    {
        $this->client->request('GET', $path);
        self::assertResponseIsSuccessful();

        return (string) $this->client->getResponse()->getContent();
    }
}
