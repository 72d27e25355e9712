<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Score\ScoredTables;
use PHPUnit\Framework\Attributes\DataProvider;

/** The scored list as people use it: filter, sort, search, page, carry columns along, download. */
final class ScoredListTest extends ApiTestCase
{
    private string $path;

    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
        $study = $this->study('Nobody home');
        $trial = $study['trials'][0]['id'];
        $source = explode("\n", $this->source((int) $study['tableId']));
        $head = $source[0];
        // 30 records: two lack what no step fills, one lies far beyond training.
        $slot = (int) array_search('slot', str_getcsv($head), true);
        $lines = \array_slice($source, 1, 30);
        $days = (int) array_search('days_ahead', str_getcsv($head), true);
        foreach ([4 => [$slot, ''], 11 => [$slot, ''], 20 => [$days, '70']] as $i => [$place, $odd]) {
            $cells = str_getcsv($lines[$i]);
            $cells[$place] = $odd;
            $lines[$i] = implode(',', array_map(static fn (?string $c) => '"'.str_replace('"', '""', (string) $c).'"', $cells));
        }
        $this->call(
            'POST',
            '/api/studies/'.$study['id'].'/tables',
            ['uploadId' => $this->upload($head."\n".implode("\n", $lines)."\n", 'thirty.csv'), 'name' => 'thirty'],
            202,
        );
        $this->work();
        $table = array_column($this->call('GET', '/api/studies/'.$study['id'].'/tables'), 'id', 'name')['thirty'];
        $job = $this->call(
            'POST',
            '/api/studies/'.$study['id'].'/scorings',
            ['trialId' => $trial, 'tableId' => $table, 'cutoff' => 0.1],
            202,
        );
        $this->work();
        $this->path = '/api/scorings/'.$job['subject'];
    }

    private function source(int $table): string
    {
        return implode('', iterator_to_array($this->service(\App\Storage\CellStore::class)->source($table), false));
    }

    public function testTheBatchIsCountedOnce(): void
    {
        $batch = $this->call('GET', $this->path);
        $all = $this->call('GET', $this->path.'/rows')['total'];
        $called = $this->call('GET', $this->path.'/rows?which=called')['total'];
        $left = $this->call('GET', $this->path.'/rows?which=left')['total'];
        $unscored = $this->call('GET', $this->path.'/rows?which=unscored')['total'];
        self::assertSame([30, 28, 2, 28], [$all, $batch['scored'], $unscored, $called + $left]);
        self::assertSame($batch['called'], $called);
        $chances = array_filter(array_column($this->call('GET', $this->path.'/rows')['rows'], 'chance'), is_float(...));
        self::assertEqualsWithDelta(array_sum($chances), $batch['expectedEvents'], 1e-6);
        self::assertSame(28, array_sum(array_map(static fn ($b) => \is_array($b) ? $b['count'] : $b, $batch['histogram'])));
    }

    /** @return iterable<string, array{string, bool}> */
    public static function orders(): iterable
    {
        foreach (['chance', 'visit_date', 'days_ahead', 'district', 'visit_id'] as $column) {
            yield "$column up" => [$column, false];
            yield "$column down" => [$column, true];
        }
    }

    #[DataProvider('orders')]
    public function testSorting(string $column, bool $descending): void
    {
        $rows = $this->call('GET', $this->path."/rows?sort=$column&descending=".($descending ? '1' : '0')."&carry[]=$column")['rows'];
        self::assertCount(30, $rows);
        $values = 'chance' === $column ? array_map(
            static fn (array $r) => $r['chance'] ?? -1.0,
            $rows,
        ) : array_map(static fn (array $r) => $r['cells'][0], $rows);
        $sorted = $values;
        'days_ahead' === $column || 'chance' === $column ? sort($sorted, \SORT_NUMERIC) : sort($sorted, \SORT_STRING);
        self::assertSame($descending ? array_reverse($sorted) : $sorted, $values);
    }

    public function testPagesHoldEveryRecordOnce(): void
    {
        $numbers = [];
        for ($offset = 0; $offset < 30; $offset += 7) {
            $page = $this->call('GET', $this->path."/rows?offset=$offset&limit=7");
            self::assertSame(30, $page['total']);
            array_push($numbers, ...array_column($page['rows'], 'number'));
        }
        sort($numbers);
        self::assertSame(range(1, 30), $numbers);
        self::assertSame([], $this->call('GET', $this->path.'/rows?offset=500')['rows']);
    }

    public function testSearchingLooksIntoAllCellsAndIgnoresCase(): void
    {
        $first = $this->call('GET', $this->path.'/rows?carry[]=visit_id&carry[]=district&limit=1')['rows'][0]['cells'];
        $found = $this->call('GET', $this->path.'/rows?search='.strtolower($first[0]).'&carry[]=visit_id');
        self::assertSame([1, $first[0]], [$found['total'], $found['rows'][0]['cells'][0]]);
        $district = $this->call('GET', $this->path.'/rows?search='.rawurlencode(strtoupper($first[1])).'&carry[]=district&which=all');
        self::assertGreaterThan(0, $district['total']);
        self::assertSame(0, $this->call('GET', $this->path.'/rows?search='.rawurlencode('%_nothing like it'))['total']);
    }

    public function testConditionsNarrowAsTheyDoInTheTable(): void
    {
        $where = static fn (string ...$c): string => rawurlencode((string) json_encode([$c]));
        $of = fn (string $query): array => $this->call('GET', $this->path.'/rows?carry[]=days_ahead&carry[]=slot&'.$query);
        $all = $of('limit=200')['rows'];
        foreach ([
            [
                'where='.$where('days_ahead', 'is between', '5', '20'),
                static fn (array $r): bool => (float) $r['cells'][0] >= 5 && (float) $r['cells'][0] <= 20,
            ],
            ['where='.$where('slot', 'is missing'), static fn (array $r): bool => null === $r['cells'][1]],
            [
                'where='.$where('days_ahead', 'is over', '9').'&low=0.05',
                static fn (array $r): bool => (float) $r['cells'][0] > 9 && $r['chance'] >= 0.05,
            ],
            [
                'which=called&where='.$where('days_ahead', 'is at most', '9'),
                static fn (array $r): bool => (float) $r['cells'][0] <= 9 && $r['called'],
            ],
        ] as [$query, $fits]) {
            $expected = array_column(array_filter($all, $fits), 'number');
            $page = $of($query);
            $found = array_column($page['rows'], 'number');
            sort($expected);
            sort($found);
            self::assertNotSame([], $expected, $query);
            self::assertSame($expected, $found, $query);
            self::assertSame(\count($expected), $page['total'], $query);
        }
        $says = $this->call('GET', $this->path.'/rows?where='.$where('nothing', 'is missing'), null, 422);
        self::assertStringContainsString('There is no column nothing.', (string) json_encode($says));
        $this->call('GET', $this->path.'/rows?which=some', null, 422);
    }

    public function testRecordsOfLowConfidenceStandApart(): void
    {
        $batch = $this->call('GET', $this->path);
        $apart = $this->call('GET', $this->path.'/rows?which=low');
        self::assertSame($batch['doubtful'], $apart['total']);
        $this->call('POST', $this->path.'/table', ['name' => 'with confidence'], 202);
        $this->work();
        $tables = $this->call('GET', '/api/studies/'.$batch['studyId'].'/tables');
        $kept = array_column($tables, 'id', 'name')['with confidence'];
        $low = $this->call('GET', "/api/tables/$kept/rows?where=".rawurlencode('[["confidence","is","low"]]'));
        self::assertSame($apart['total'], $low['total']);
        self::assertEqualsCanonicalizing(array_column($apart['rows'], 'number'), array_column($low['rows'], 'number'));
    }

    public function testUnscoredRecordsSayWhy(): void
    {
        foreach ($this->call('GET', $this->path.'/rows?which=unscored')['rows'] as $row) {
            self::assertNull($row['chance']);
            self::assertNull($row['called']);
            self::assertSame('not scored: slot missing', $row['why']);
            self::assertContains($row['number'], [5, 12]);
        }
    }

    public function testEveryLineOfTheFileEqualsItsRowOnTheScreen(): void
    {
        $this->client->request('GET', $this->path.'/file?full=1&carry[]=visit_id&carry[]=booking_note');
        $named = (string) $this->client->getResponse()->headers->get('Content-Disposition');
        self::assertStringContainsString('thirty_scored_draft.csv', $named);
        $handle = fopen('php://memory', 'r+');
        self::assertNotFalse($handle);
        fwrite($handle, (string) $this->client->getInternalResponse()->getContent());
        rewind($handle);
        $head = ['visit_id', 'booking_note', 'outcome_chance', 'called', 'because', 'status'];
        self::assertSame($head, fgetcsv($handle, null, ',', '"', ''));
        $rows = array_column($this->call('GET', $this->path.'/rows?carry[]=visit_id&carry[]=booking_note')['rows'], null, 'number');
        for ($number = 1; false !== $line = fgetcsv($handle, null, ',', '"', ''); ++$number) {
            $row = $rows[$number];
            self::assertSame((string) $row['cells'][0], $line[0]);
            self::assertSame((string) $row['cells'][1], ltrim((string) $line[1], "'"));
            self::assertSame($row['chance'], '' === $line[2] ? null : (float) $line[2]);
            self::assertSame(match ($row['called']) {
                true => 'yes', false => 'no', default => '',
            }, $line[3]);
            self::assertSame($row['why'] ?? $row['reasons'], $line[4]);
        }
        self::assertSame(31, $number);
    }

    /** @return iterable<string, array{string}> */
    public static function nonsense(): iterable
    {
        yield 'a part that is none' => ['which=some'];
        yield 'a column that is not there' => ['sort=luck'];
    }

    #[DataProvider('nonsense')]
    public function testNonsenseIsRefused(string $query): void
    {
        self::assertNotSame('', $this->call('GET', $this->path.'/rows?'.$query, null, 422)['title']);
    }

    public function testAFileOfWorkThatIsNotDoneIsRefused(): void
    {
        $study = $this->study('Nobody home');
        $job = $this->call(
            'POST',
            '/api/studies/'.$study['id'].'/scorings',
            ['trialId' => $study['trials'][0]['id'], 'tableId' => $study['tableId'], 'cutoff' => 0.5],
            202,
        );
        self::assertSame('The scoring is not finished.', $this->call('GET', '/api/scorings/'.$job['subject'].'/file', null, 409)['title']);
        $this->call('POST', '/api/jobs/'.$job['id'].'/cancel');
        self::assertSame('cancelled', $this->call('GET', '/api/scorings/'.$job['subject'])['state']);
    }

    public function testReasonsOfAScoredRecordAddUp(): void
    {
        $row = $this->call('GET', $this->path.'/rows?which=called&limit=1')['rows'][0];
        $reasons = $this->call('GET', $this->path.'/reasons/'.$row['number']);
        self::assertEqualsWithDelta(
            $reasons['logOdds'],
            $reasons['base'] + array_sum(array_column($reasons['contributions'], 'effect')),
            1e-6,
        );
        self::assertEqualsWithDelta($row['chance'], $reasons['chance'], 1e-9);
        $this->call('GET', $this->path.'/reasons/31', null, 404);
    }

    public function testABatchOfMoreThanOneChunkIsWrittenPieceByPiece(): void
    {
        $study = $this->study('Nobody home');
        $baseline = array_values(array_filter($study['trials'], static fn (array $t): bool => 'Baseline' === $t['title']))[0]['id'];
        $rows = ScoredTables::CHUNK + 5000;
        $this->call(
            'POST',
            '/api/studies/'.$study['id'].'/tables',
            [
                'uploadId' => $this->upload(
                    "ref\n".implode("\n", array_map(static fn (int $i): string => 'r'.$i, range(1, $rows)))."\n",
                    'many.csv',
                ),
                'name' => 'many',
            ],
            202,
        );
        $this->work();
        $table = array_column($this->call('GET', '/api/studies/'.$study['id'].'/tables'), 'id', 'name')['many'];
        $job = $this->call(
            'POST',
            '/api/studies/'.$study['id'].'/scorings',
            ['trialId' => $baseline, 'tableId' => $table, 'cutoff' => 0.9],
            202,
        );
        $path = '/api/scorings/'.$job['subject'];
        self::assertSame(0, $this->call('GET', $path.'/rows')['total'], 'nothing is shown before all is there');
        $this->call('GET', $path.'/file', null, 409);
        $this->work();
        $batch = $this->call('GET', $path);
        self::assertSame([$rows, 0, $rows], [$batch['scored'], $batch['called'], array_sum($batch['histogram'])]);
        self::assertEqualsWithDelta($rows * 0.064, $batch['expectedEvents'], 0.02 * $rows);
        // Of equal answers the earlier record comes first, also across the edge of a chunk.
        $page = $this->call('GET', $path.'/rows?descending=1&limit=3&carry[]=ref&offset='.(ScoredTables::CHUNK - 1));
        self::assertSame(
            [$rows, ['r65536', 'r65537', 'r65538']],
            [$page['total'], array_map(static fn (array $r): string => $r['cells'][0], $page['rows'])],
        );
        self::assertSame(['r'.$rows], $this->call('GET', $path.'/rows?descending=0&limit=1&carry[]=ref')['rows'][0]['cells']);
        self::assertSame(
            ['r70536'],
            $this->call('GET', $path.'/rows?which=left&limit=1&carry[]=ref&offset='.($rows - 1))['rows'][0]['cells'] ?? null,
        );
        $this->client->request('GET', $path.'/file?carry[]=ref');
        self::assertSame($rows + 1, substr_count((string) $this->client->getInternalResponse()->getContent(), "\n"));
        self::assertNotContains('many, scored', array_column($this->call('GET', '/api/studies/'.$study['id'].'/tables'), 'name'));
    }

    public function testABandOfAnswersNarrowsTheList(): void
    {
        $all = array_column($this->call('GET', $this->path.'/rows')['rows'], 'chance', 'number');
        foreach ([[0.05, 0.15], [0.0, 1.0], [0.9, 0.95], [0.1, null]] as [$low, $high]) {
            $query = "?low=$low".(null === $high ? '' : "&high=$high");
            $page = $this->call('GET', $this->path.'/rows'.$query);
            $wanted = array_filter($all, static fn (?float $p): bool => null !== $p && $p >= $low && $p <= ($high ?? 1.0));
            self::assertSame(\count($wanted), $page['total'], $query);
            self::assertEqualsCanonicalizing(array_keys($wanted), array_column($page['rows'], 'number'));
        }
        $this->call('GET', $this->path.'/rows?low=abc', null, 422);
    }

    public function testAColumnThatIsNotThereIsFilledWhereThatIsTheAnswer(): void
    {
        $study = $this->study('Nobody home');
        $lines = \array_slice(explode("\n", $this->source((int) $study['tableId'])), 0, 9);
        $slot = (int) array_search('slot', str_getcsv($lines[0]), true);
        $without = array_map(static function (string $line) use ($slot): string {
            $cells = str_getcsv($line);
            unset($cells[$slot]);

            return implode(',', array_map(static fn (?string $c): string => '"'.str_replace('"', '""', (string) $c).'"', $cells));
        }, $lines);
        $upload = $this->upload(implode("\n", $without)."\n", 'no-slot.csv');
        $this->call('POST', '/api/studies/'.$study['id'].'/tables', ['uploadId' => $upload, 'name' => 'no slot'], 202);
        $this->work();
        $table = array_column($this->call('GET', '/api/studies/'.$study['id'].'/tables'), 'id', 'name')['no slot'];
        $asked = ['trialId' => $study['trials'][0]['id'], 'tableId' => $table, 'cutoff' => 0.1];
        $question = array_column($this->call('POST', '/api/studies/'.$study['id'].'/match', $asked)['questions'], null, 'column')['slot'];
        self::assertSame(
            ['count as missing', ['count as missing', 'fill with the usual value']],
            [$question['answer'], $question['answers']],
        );
        self::assertContains($question['usual'], ['08-10', '10-13', '13-16', '16-19']);
        foreach (['count as missing' => 0, 'fill with the usual value' => 8] as $answer => $scored) {
            $job = $this->call('POST', '/api/studies/'.$study['id'].'/scorings', $asked + ['answers' => ['slot' => $answer]], 202);
            $this->work();
            $batch = $this->call('GET', '/api/scorings/'.$job['subject']);
            self::assertSame([$scored, ['slot' => $answer]], [$batch['scored'], $batch['answers']]);
        }
        $this->call('POST', '/api/studies/'.$study['id'].'/scorings', $asked + ['answers' => ['slot' => 'guess']], 422);
    }

    public function testWhatLiesBeyondTheRecordsOfTheModelIsSaidBeforeAndMarkedAfterwards(): void
    {
        $study = $this->study('Nobody home');
        $lines = explode("\n", $this->source((int) $study['tableId']));
        $ahead = (int) array_search('days_ahead', str_getcsv($lines[0]), true);
        $cells = str_getcsv($lines[1]);
        $cells[$ahead] = '4444';
        $far = implode(',', array_map(static fn (?string $c): string => '"'.str_replace('"', '""', (string) $c).'"', $cells));
        $upload = $this->upload($lines[0]."\n".$far."\n".implode("\n", \array_slice($lines, 2, 5))."\n", 'far.csv');
        $this->call('POST', '/api/studies/'.$study['id'].'/tables', ['uploadId' => $upload, 'name' => 'far'], 202);
        $this->work();
        $table = array_column($this->call('GET', '/api/studies/'.$study['id'].'/tables'), 'id', 'name')['far'];
        $asked = ['trialId' => $study['trials'][0]['id'], 'tableId' => $table, 'cutoff' => 0.1];
        $match = $this->call('POST', '/api/studies/'.$study['id'].'/match', $asked);
        self::assertStringContainsString('days_ahead reaches beyond', implode(' ', $match['problems']));
        [$question] = array_values(array_filter($match['questions'], static fn (array $q): bool => 'days_ahead' === $q['column']));
        [$score, $hold, $leave] = $question['answers'];
        self::assertSame([$score, true], [$question['answer'], \in_array($question['says'], $match['problems'], true)]);
        $answered = [];
        foreach ([$score, $hold, $leave] as $answer) {
            $with = ['answers' => ['days_ahead' => $answer]] + $asked;
            $batch = $this->call('POST', '/api/studies/'.$study['id'].'/scorings', $with, 202)['subject'];
            $this->work();
            $answered[] = array_column($this->call('GET', "/api/scorings/$batch/rows")['rows'], null, 'number');
        }
        self::assertNotSame($answered[0][1]['chance'], $answered[1][1]['chance'], 'held at the end of the range');
        self::assertNull($answered[2][1]['chance']);
        self::assertStringContainsString('left out: days_ahead 4444 is beyond', $answered[2][1]['why']);
        foreach ([2, 3, 4] as $number) {
            self::assertSame($answered[0][$number]['chance'], $answered[2][$number]['chance'], 'others are scored as ever');
        }
        $this->call('POST', '/api/studies/'.$study['id'].'/scorings', ['answers' => ['days_ahead' => 'guess']] + $asked, 422);
        $scoring = $this->call('POST', '/api/studies/'.$study['id'].'/scorings', $asked, 202)['subject'];
        $this->work();
        $made = $this->call('POST', "/api/scorings/$scoring/table", ['name' => 'far scored', 'carry' => []], 202)['subject'];
        $this->work();
        $names = array_column($this->call('GET', "/api/tables/$made")['columns'], 'name');
        $rows = $this->call('GET', "/api/tables/$made/rows?limit=10")['rows'];
        $first = array_combine($names, $rows[0]['cells']);
        self::assertSame('low', $first['confidence']);
        self::assertStringContainsString('days_ahead 4444 is beyond', (string) $first['beyond']);
        self::assertNull(array_combine($names, $rows[1]['cells'])['beyond']);
    }

    public function testScoredRecordsBecomeATableLikeAnyOther(): void
    {
        $study = $this->call('GET', $this->path)['studyId'];
        $job = $this->call(
            'POST',
            $this->path.'/table',
            ['name' => 'thirty scored', 'as' => 'nobody', 'carry' => ['visit_id', 'slot']],
            202,
        );
        $this->work();
        $table = $this->call('GET', '/api/tables/'.$job['subject']);
        self::assertSame('ready', $table['state']);
        self::assertSame(30, $table['rows']);
        $kinds = array_column($table['columns'], 'kind', 'name');
        self::assertSame(
            [
                'visit_id',
                'slot',
                'nobody_chance',
                'called',
                'nobody_came_among_similar',
                'nobody_came_low',
                'nobody_came_high',
                'because',
                'confidence',
                'beyond',
                'not_scored_because',
            ],
            array_keys($kinds),
        );
        self::assertSame(['number', 'yes/no', 'category'], [$kinds['nobody_chance'], $kinds['called'], $kinds['confidence']]);
        $rows = $this->call('GET', '/api/tables/'.$job['subject'].'/rows?limit=100')['rows'];
        $chances = array_column($this->call('GET', $this->path.'/rows')['rows'], 'chance', 'number');
        $unscored = 0;
        foreach ($rows as $row) {
            $cells = array_combine(array_keys($kinds), $row['cells']);
            null === $chances[$row['number']]
                ? self::assertNull($cells['nobody_chance'])
                : self::assertEqualsWithDelta($chances[$row['number']], (float) $cells['nobody_chance'], 1e-12);
            $unscored += null === $cells['not_scored_because'] ? 0 : 1;
            self::assertSame(null === $cells['not_scored_because'], null !== $cells['confidence']);
        }
        self::assertSame(2, $unscored);
        // Made again it is the next edition; no other table is ever one's next edition.
        $again = $this->call('POST', $this->path.'/table', ['name' => 'thirty scored'], 202);
        $this->work();
        self::assertSame(2, $this->call('GET', '/api/tables/'.$again['subject'])['edition']);
        $this->call('POST', $this->path.'/table', ['name' => 'thirty'], 422);
        $this->call('POST', $this->path.'/table', ['name' => 'new', 'carry' => ['no such']], 422);
        self::assertContains('thirty scored', array_column($this->call('GET', "/api/studies/$study/tables"), 'name'));
    }
}
