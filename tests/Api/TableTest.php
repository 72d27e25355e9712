<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Table\DataTable;
use Doctrine\DBAL\Connection;
use Dokimos\Core\Format\WorkbookWriter;
use Dokimos\Core\Table\Kind;

/** Uploads, imports, kinds, rows. */
final class TableTest extends ApiTestCase
{
    public function testAPieceMustFitAndArriveWhole(): void
    {
        $this->signIn();
        $this->call('POST', '/api/uploads', ['fileName' => 'x.csv', 'size' => 0], 422);
        $this->call('POST', '/api/uploads', ['fileName' => 'x.csv', 'size' => 3 << 30], 413);
        $id = $this->call('POST', '/api/uploads', ['fileName' => 'x.csv', 'size' => 8], 201)['id'];
        $put = function (int $offset, string $bytes, ?string $checksum = null) use ($id): int {
            $this->client->request(
                'PUT',
                "/api/uploads/$id/pieces?offset=$offset",
                server: ['HTTP_PIECE_CHECKSUM' => $checksum ?? hash('sha256', $bytes)],
                content: $bytes,
            );

            return $this->client->getResponse()->getStatusCode();
        };
        self::assertSame(422, $put(0, 'a,b', 'wrong'));
        self::assertSame(200, $put(0, "a,b\n"));
        self::assertSame(409, $put(0, "a,b\n"));
        self::assertSame(4, json_decode((string) $this->client->getResponse()->getContent(), true)['received']);
        $this->call('POST', '/api/studies/1/tables', ['uploadId' => $id, 'name' => 't'], 409);
        self::assertSame(422, $put(4, "1,2\n3"));
        self::assertSame(200, $put(4, "1,2\n"));
        self::assertSame(['a', 'b'], $this->call('GET', "/api/uploads/$id/reading")['names']);
    }

    public function testTheReadingFollowsCorrections(): void
    {
        $this->signIn();
        $id = $this->upload("a;b\n1,5;x\n2,5;y\n");
        $reading = $this->call('GET', "/api/uploads/$id/reading");
        self::assertSame(
            [';', ',', true],
            [$reading['dialect']['delimiter'], $reading['dialect']['decimal'], $reading['dialect']['header']],
        );
        self::assertSame(['column_1', 'column_2'], $this->call('GET', "/api/uploads/$id/reading?header=0")['names']);
        self::assertCount(1, $this->call('GET', "/api/uploads/$id/reading?delimiter=%09")['names']);
        $this->call('GET', "/api/uploads/$id/reading?encoding=Klingon", null, 422);
        $job = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $id, 'name' => 'commas', 'dialect' => $reading['dialect']], 202);
        $this->work();
        self::assertSame('number', $this->call('GET', '/api/tables/'.$job['subject'])['columns'][0]['kind']);
    }

    public function testAFileWrongInEveryGuessIsReadRightThroughTheCorrections(): void
    {
        $this->signIn();
        $csv = "Ausgabe M\xE4rz\n%Notiz\nwann;wie viel;was\n%mehr\n14.03.2026;1 234,5;'a;b'\n15.03.2026;?;'Gr\xFC\xDFe'\n";
        $id = $this->upload($csv, 'odd.csv');
        $query = http_build_query([
            'encoding' => 'ISO-8859-1',
            'delimiter' => ';',
            'quote' => "'",
            'decimal' => ',',
            'thousands' => ' ',
            'header' => '1',
            'skip' => 1,
            'comment' => '%',
            'missing' => '?,-99',
        ]);
        $reading = $this->call('GET', "/api/uploads/$id/reading?$query");
        self::assertSame(['wann', 'wie viel', 'was'], $reading['names']);
        self::assertSame([['14.03.2026', '1 234,5', 'a;b'], ['15.03.2026', '?', 'Grüße']], $reading['records']);
        self::assertSame(['', '?', '-99'], $reading['dialect']['missing']);
        $job = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $id, 'name' => 'odd', 'dialect' => $reading['dialect']], 202);
        $this->work();
        $columns = array_column($this->call('GET', '/api/tables/'.$job['subject'])['columns'], null, 'name');
        self::assertSame(['date', 'number', 1], [$columns['wann']['kind'], $columns['wie viel']['kind'], $columns['wie viel']['missing']]);
        self::assertSame(['2026-03-14', '1234.5', 'a;b'], $this->call('GET', '/api/tables/'.$job['subject'].'/rows')['rows'][0]['cells']);
        self::assertSame(
            'category',
            $this->call(
                'PATCH',
                '/api/columns/'.$columns['wie viel']['id'],
                ['kind' => 'category'],
                200,
                ['If-Match' => (string) $columns['wie viel']['version']],
            )['kind'],
            'the corrections hold when a column is read again',
        );
        foreach (['quote' => '`', 'thousands' => '_', 'skip' => '-4', 'comment' => ';', 'encoding' => 'EBCDIC'] as $name => $value) {
            $this->call(
                'GET',
                "/api/uploads/{$this->upload($csv, 'odd.csv')}/reading?delimiter=;&".http_build_query([$name => $value]),
                null,
                422,
            );
        }
    }

    public function testAWorkbookAndADatabaseGiveTheirTables(): void
    {
        $this->signIn();
        $path = sys_get_temp_dir().'/'.bin2hex(random_bytes(4)).'.xlsx';
        WorkbookWriter::write(
            ['id', 'km', 'when'],
            [Kind::Text, Kind::Number, Kind::Date],
            [['a', '1.5', '2026-01-02'], ['b', null, '2026-01-03']],
            $path,
        );
        $id = $this->upload((string) file_get_contents($path), 'book.xlsx');
        unlink($path);
        $reading = $this->call('GET', "/api/uploads/$id/reading");
        self::assertSame(
            ['workbook', ['Worksheet'], 'Worksheet', 2, ['id', 'km', 'when']],
            [$reading['container'], $reading['parts'], $reading['part'], $reading['aboutRecords'], $reading['names']],
        );
        self::assertSame(['Worksheet'], $this->call('GET', "/api/uploads/$id/reading?skip=0&part=Worksheet")['parts']);
        self::assertStringContainsString(
            'There is no sheet Other',
            $this->call('GET', "/api/uploads/$id/reading?part=Other", null, 422)['title'],
        );
        $job = $this->call(
            'POST',
            '/api/studies/1/tables',
            ['uploadId' => $id, 'name' => 'book', 'part' => 'Worksheet', 'dialect' => $reading['dialect']],
            202,
        );
        $this->work();
        $columns = array_column($this->call('GET', '/api/tables/'.$job['subject'])['columns'], 'kind', 'name');
        self::assertSame(['id' => 'category', 'km' => 'number', 'when' => 'date'], $columns);
        $this->client->request('GET', '/api/tables/'.$job['subject'].'/file?format=xlsx');
        self::assertResponseIsSuccessful();
        $again = $this->upload((string) $this->client->getResponse()->getContent(), 'again.xlsx');
        self::assertSame(
            [['a', '1.5', '2026-01-02'], ['b', '', '2026-01-03']],
            $this->call('GET', "/api/uploads/$again/reading")['records'],
        );

        self::assertSame(['visits', 'bookings', 'households', 'company'], array_column($this->call('GET', '/api/examples'), 'name'));
        $this->call('POST', '/api/examples/nothing', null, 404);
        $id = $this->call('POST', '/api/examples/company', null, 201)['id'];
        $reading = $this->call('GET', "/api/uploads/$id/reading");
        self::assertSame('database', $reading['container']);
        self::assertContains('returned', $reading['parts']);
        self::assertSame(3000, $this->call('GET', "/api/uploads/$id/reading?part=visits")['aboutRecords']);
        $select = "SELECT tenure, count(*) AS visits FROM visits WHERE return_visit = 'yes' GROUP BY tenure ORDER BY tenure";
        $chosen = $this->call('GET', "/api/uploads/$id/reading?".http_build_query(['part' => $select]));
        self::assertSame([['tenure', 'visits'], 3], [$chosen['names'], \count($chosen['records'])]);
        $this->call('GET', "/api/uploads/$id/reading?".http_build_query(['part' => 'DROP TABLE visits']), null, 422);
        $job = $this->call(
            'POST',
            '/api/studies/1/tables',
            ['uploadId' => $id, 'name' => 'returned by tenure', 'part' => $select, 'dialect' => $chosen['dialect']],
            202,
        );
        $this->work();
        self::assertSame(3, $this->call('GET', '/api/tables/'.$job['subject'])['rows']);
    }

    public function testOfALargeTableAColumnIsToldOfBySomeRecordsAndSaysSo(): void
    {
        $this->signIn();
        $rows = 520_000;
        $bytes = "n\n".implode("\n", array_map(static fn (int $i): int => $i % 1000 * 1000 + intdiv($i, 1000), range(0, $rows - 1)))."\n";
        $job = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $this->upload($bytes, 'long.csv'), 'name' => 'long'], 202);
        $this->work();
        $id = $this->call('GET', '/api/tables/'.$job['subject'])['columns'][0]['id'];
        $more = $this->call('GET', "/api/columns/$id/more");
        self::assertSame(122 * 4096, $more['looked']);
        self::assertSame($more['looked'], $more['fits']['cells']);
        // Numbers of records are those of the table.
        foreach ([...$more['lowest'], ...$more['highest']] as $end) {
            $i = $end['number'] - 1;
            self::assertSame((string) ($i % 1000 * 1000 + intdiv($i, 1000)), $end['value']);
        }
        self::assertGreaterThan($more['looked'], max([0, ...array_column([...$more['lowest'], ...$more['highest']], 'number')]));
        $parts = $this->call('GET', "/api/columns/$id")['parts'];
        self::assertSame($rows, array_sum(array_column($parts, 'count')), 'what was counted while it was read is exact');
        self::assertNull($this->call('GET', "/api/columns/$id?bins=8")['headline']);
    }

    public function testAColumnInMoreDetail(): void
    {
        $this->signIn();
        $columns = array_column($this->call('GET', '/api/tables/1')['columns'], 'id', 'name');
        $cost = $this->call('GET', "/api/columns/{$columns['quoted_cost']}?bins=8&log=1");
        self::assertCount(8, $cost['parts']);
        self::assertSame(1500, array_sum(array_column($cost['parts'], 'count')));
        self::assertSame(1200, array_sum(array_column($cost['parts'], 'judged')));
        self::assertEqualsWithDelta(
            $cost['parts'][1]['low'] / $cost['parts'][0]['low'],
            $cost['parts'][5]['low'] / $cost['parts'][4]['low'],
            1e-9,
            'equal widths on the logarithmic scale',
        );
        $km = $this->call('GET', "/api/columns/{$columns['travel_km']}?bins=10&log=1");
        self::assertCount(11, $km['parts'], 'what has no logarithm has a bin of its own');
        $this->call('GET', "/api/columns/{$columns['travel_km']}?bins=1", null, 422);
        $more = $this->call('GET', "/api/columns/{$columns['quoted_cost']}/more");
        $high = array_map(static fn (array $e) => (float) $e['value'], $more['highest']);
        $sorted = $high;
        rsort($sorted);
        self::assertSame($sorted, $high);
        self::assertGreaterThan(3.5, $more['highest'][0]['z']);
        $tenure = $this->call('GET', "/api/columns/{$columns['tenure']}/more");
        self::assertSame(
            [1500, 1200, []],
            [array_sum(array_column($tenure['values'], 'count')), array_sum(array_column($tenure['values'], 'judged')), $tenure['lowest']],
        );
        self::assertSame([1500, 1500, 0, 0], array_values($more['fits']));
        self::assertSame(['cells' => 1500, 'number' => 0, 'date' => 0, 'yesNo' => 0], $tenure['fits']);
        $note = $this->call('GET', "/api/columns/{$columns['booking_note']}/more");
        self::assertNotSame([], $note['terms']);
        self::assertLessThanOrEqual($note['terms'][1]['p'], $note['terms'][0]['p']);
        self::assertSame(mb_strlen($note['highest'][0]['value']) >= mb_strlen($note['highest'][1]['value']), true);
        self::assertSame(
            [],
            array_filter(
                array_column($this->call('GET', "/api/columns/{$columns['return_visit']}/more")['values'], 'share'),
                static fn (?float $s) => null !== $s,
            ),
            'the target is not laid over itself',
        );
    }

    public function testALaterImportIsTheNextEditionAndSaysWhatDiffers(): void
    {
        $this->signIn();
        $import = function (string $csv): array {
            $job = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $this->upload($csv), 'name' => 'monthly'], 202);
            $this->work();

            return $this->call('GET', '/api/tables/'.$job['subject']);
        };
        $first = $import("code,km,place,gone\n11,1,here,x\n12,2,there,y\n11,3,here,z\n");
        self::assertNull($first['before']);
        $columns = array_column($first['columns'], null, 'name');
        $this->call(
            'PATCH',
            '/api/columns/'.$columns['code']['id'],
            ['kind' => 'category', 'use' => 'set aside', 'known' => false],
            200,
            ['If-Match' => (string) $columns['code']['version']],
        );
        $second = $import("code,km,place,fresh\n11,1,here,1\n13,far,nowhere,2\n11,,here,3\n11,7,,4\n");
        self::assertSame(
            [2, 1, 3, 4],
            [$second['edition'], $second['before']['beforeEdition'], $second['before']['rowsBefore'], $second['before']['rows']],
        );
        $code = array_column($second['columns'], null, 'name')['code'];
        self::assertSame(['category', 'set aside', false], [$code['kind'], $code['use'], $code['known']]);
        self::assertSame('number', array_column($second['columns'], 'kind', 'name')['km']);
        self::assertSame(
            [
                'gone is not there any more.',
                'code: a new value: 13.',
                'km: 1 cell does not fit the kind number, first "far"; missing in 50.0%, before in 0.0%.',
                'place: missing in 25.0%, before in 0.0%; a new value: nowhere.',
                'fresh is new (number).',
            ],
            array_column($second['before']['differences'], 'says'),
        );
    }

    public function testDatesThatCouldBeReadInTwoWaysAreSaid(): void
    {
        $this->signIn();
        $import = function (string $csv, array $dialect = []): array {
            $id = $this->upload($csv);
            $reading = $this->call('GET', "/api/uploads/$id/reading?".http_build_query($dialect));
            $job = $this->call(
                'POST',
                '/api/studies/1/tables',
                ['uploadId' => $id, 'name' => 'when', 'dialect' => $reading['dialect']],
                202,
            );
            $this->work();

            return [
                $this->call('GET', '/api/tables/'.$job['subject'])['repairs'],
                array_map(static fn (array $r) => $r['cells'][0], $this->call('GET', '/api/tables/'.$job['subject'].'/rows')['rows']),
            ];
        };
        $open = "day,x\n03/04/2025,a\n05/04/2025,b\n";
        self::assertSame(
            [
                ['No date in day tells whether the day or the month comes first: 03/04/2025 was read as 2025-04-03, it could be 2025-03-04. Import the file again the other way round if that is wrong.'],
                ['2025-04-03', '2025-04-05'],
            ],
            $import($open),
        );
        self::assertSame(['2025-03-04', '2025-05-04'], $import($open, ['dates' => 'month first'])[1]);
        self::assertSame([[], ['2025-04-03', '2025-04-25']], $import("day,x\n03/04/2025,a\n25/04/2025,b\n"));
        self::assertSame(
            [[], ['2025-03-04', '2025-04-25']],
            $import("day,x\n03/04/2025,a\n04/25/2025,b\n"),
            'the other dates tell the order',
        );
    }

    public function testManyColumnsAreChangedAfterLookingAtWhatItDoes(): void
    {
        $this->signIn();
        $job = $this->call(
            'POST',
            '/api/studies/1/tables',
            ['uploadId' => $this->upload("a,b,c\n1,x,ja\n2,3.5,nein\n,7,perhaps\n"), 'name' => 'many'],
            202,
        );
        $this->work();
        $path = '/api/tables/'.$job['subject'];
        $columns = fn (): array => array_column($this->call('GET', $path)['columns'], null, 'name');
        $before = $columns();
        $versions = static fn (string ...$names): array => array_column(
            array_map(static fn (string $n) => $before[$n], $names),
            'version',
            'id',
        );
        $looked = $this->call('POST', $path.'/columns', ['versions' => $versions('a', 'b', 'c'), 'kind' => 'number', 'preview' => true]);
        self::assertFalse($looked['applied']);
        self::assertSame(
            [[0, []], [1, ['x']], [3, ['ja', 'nein', 'perhaps']]],
            array_map(static fn (array $c) => [$c['misfits'], $c['examples']], $looked['columns']),
        );
        self::assertEquals($before, $columns(), 'looking changes nothing');
        self::assertSame(
            [[1, ['perhaps']]],
            array_map(
                static fn (array $c) => [$c['misfits'], $c['examples']],
                $this->call('POST', $path.'/columns', ['versions' => $versions('c'), 'kind' => 'yes/no', 'preview' => true])['columns'],
            ),
        );
        $done = $this->call(
            'POST',
            $path.'/columns',
            ['versions' => $versions('a', 'b'), 'kind' => 'number', 'use' => 'set aside', 'known' => false],
        );
        self::assertTrue($done['applied']);
        self::assertSame(
            [['number', 'set aside', false, 0], ['number', 'set aside', false, 1]],
            array_map(
                static fn (string $n) => [
                    $columns()[$n]['kind'],
                    $columns()[$n]['use'],
                    $columns()[$n]['known'],
                    $columns()[$n]['misfits'],
                ],
                ['a', 'b'],
            ),
        );
        self::assertStringContainsString(
            'a and b of many: kind to number (1 cells do not fit',
            json_encode($this->call('GET', '/api/studies/1/logbook'), \JSON_THROW_ON_ERROR),
        );
        $this->call('POST', $path.'/columns', ['versions' => $versions('a'), 'use' => 'input'], 412);
        $this->call('POST', $path.'/columns', ['versions' => [999999 => 1], 'use' => 'input'], 422);
        $this->call('POST', $path.'/columns', ['versions' => []], 422);
        $this->call('POST', $path.'/columns', ['versions' => $versions('c'), 'kind' => 'poem'], 422);
        $target = array_column($this->call('GET', '/api/tables/1')['columns'], null, 'name')['return_visit'];
        $refused = $this->call(
            'POST',
            '/api/tables/1/columns',
            ['versions' => [$target['id'] => $target['version']], 'use' => 'set aside', 'preview' => true],
        );
        self::assertStringContainsString('return_visit is the target', $refused['columns'][0]['refused']);
    }

    public function testATableIsTakenAwayInOpenFormatsAndComesBackTheSame(): void
    {
        $this->signIn();
        $csv = "id,km,when,late,note,0\nA1,1.5,2026-01-02,yes,\"a, b\",7\nA2,,2026-01-03,no,=1+1,8\nA3,-3,,yes,größe,9\n";
        $job = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $this->upload($csv), 'name' => 'take away'], 202);
        $this->work();
        $path = '/api/tables/'.$job['subject'];
        $fetch = function (string $format) use ($path): string {
            $this->client->request('GET', $path.'/file?format='.$format);
            self::assertResponseIsSuccessful();
            self::assertStringContainsString(
                'take_away.'.$format,
                (string) $this->client->getResponse()->headers->get('Content-Disposition'),
            );

            return (string) $this->client->getInternalResponse()->getContent();
        };
        $lines = explode("\n", trim($fetch('jsonl')));
        self::assertSame('{"id":"A1","km":1.5,"when":"2026-01-02","late":true,"note":"a, b","0":7}', $lines[0]);
        self::assertSame('{"id":"A2","km":null,"when":"2026-01-03","late":false,"note":"=1+1","0":8}', $lines[1]);
        self::assertSame('{"id":"A3","km":-3,"when":null,"late":true,"note":"größe","0":9}', $lines[2]);
        $written = $fetch('csv');
        self::assertStringContainsString("'=1+1", $written, 'guarded for spreadsheets');
        $again = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $this->upload($written), 'name' => 'back'], 202);
        $this->work();
        $rows = fn (int $id): array => array_column($this->call('GET', "/api/tables/$id/rows")['rows'], 'cells');
        self::assertSame(
            $rows($job['subject']),
            array_map(
                static fn (array $r) => array_map(static fn (?string $c) => null === $c ? null : ltrim($c, "'"), $r),
                $rows($again['subject']),
            ),
        );
        $jsonl = $this->upload($fetch('jsonl'), 'take.jsonl');
        $reading = $this->call('GET', "/api/uploads/$jsonl/reading");
        self::assertSame(
            ['JSON Lines', ['id', 'km', 'when', 'late', 'note', '0'], 3],
            [$reading['dialect']['form'], $reading['names'], $reading['aboutRecords']],
        );
        $third = $this->call(
            'POST',
            '/api/studies/1/tables',
            ['uploadId' => $jsonl, 'name' => 'lines', 'dialect' => $reading['dialect']],
            202,
        );
        $this->work();
        self::assertSame($rows($job['subject']), $rows($third['subject']), 'JSON Lines come back the same');
        $this->call('GET', $path.'/file?format=pdf', null, 422);
        $waiting = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $this->upload($csv), 'name' => 'not yet'], 202);
        $this->call('GET', '/api/tables/'.$waiting['subject'].'/file', null, 409);
    }

    public function testAnImportThatFailsLeavesNothingBehind(): void
    {
        $this->signIn();
        $connection = $this->service(Connection::class);
        $before = $connection->fetchOne('SELECT COUNT(*) FROM column_chunk');
        $id = $this->upload("a,b\n".str_repeat("1,2\n", 70000)."1,\"2\n");
        $job = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $id, 'name' => 'broken'], 202);
        $this->work();
        $job = $this->call('GET', '/api/jobs/'.$job['id']);
        self::assertSame('failed', $job['state']);
        self::assertStringContainsString('A quote opened in line 70,002 is never closed', $job['message']);
        self::assertSame($before, $connection->fetchOne('SELECT COUNT(*) FROM column_chunk'));
        self::assertSame(0, (int) $connection->fetchOne('SELECT COUNT(*) FROM source_block WHERE table_id = ?', [$job['subject']]));
        self::assertNotContains('broken', array_column($this->call('GET', '/api/studies/1/tables'), 'name'));
    }

    public function testFiveThousandColumnsAreImported(): void
    {
        $this->signIn();
        $csv = implode(',', array_map(static fn (int $i) => 'c'.$i, range(1, 5000)))."\n".str_repeat(implode(',', range(1, 5000))."\n", 3);
        $job = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $this->upload($csv), 'name' => 'wide'], 202);
        $this->work();
        self::assertSame('done', $this->call('GET', '/api/jobs/'.$job['id'])['state']);
        self::assertCount(5000, $this->call('GET', '/api/tables/'.$job['subject'])['columns']);
        self::assertSame('5000', $this->call('GET', '/api/tables/'.$job['subject'].'/rows?limit=1')['rows'][0]['cells'][4999]);
    }

    public function testALaterImportOfTheSameNameIsANewEdition(): void
    {
        $this->signIn();
        foreach ([1, 2] as $edition) {
            $job = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $this->upload("a,b\n1,2\n"), 'name' => 'twice'], 202);
            $this->work();
            self::assertSame($edition, $this->call('GET', '/api/tables/'.$job['subject'])['edition']);
        }
    }

    public function testRowsPageAndSortWithMissingLast(): void
    {
        $this->signIn();
        $rows = 'n,s'."\n".implode(
            '',
            array_map(static fn (int $i) => (0 === $i % 5 ? '' : (string) (($i * 7919) % 10007)).',k'.$i."\n", range(1, 9000)),
        );
        $job = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $this->upload($rows), 'name' => 'many'], 202);
        $this->work();
        $path = '/api/tables/'.$job['subject'].'/rows';
        self::assertSame(
            [4096, 4097],
            array_column($this->call('GET', $path.'?offset=4095&limit=2')['rows'], 'number'),
            'across two frames',
        );
        $cells = array_column(array_column($this->call('GET', $path.'?sort=n&limit=200')['rows'], 'cells'), 0);
        $sorted = $cells;
        sort($sorted, \SORT_NUMERIC);
        self::assertSame($sorted, $cells);
        self::assertNull($this->call('GET', $path.'?sort=n&descending=1&offset=8990')['rows'][0]['cells'][0]);
        self::assertNotNull($this->call('GET', $path.'?sort=n&descending=1')['rows'][0]['cells'][0]);
        $this->call('GET', $path.'?sort=nothing', null, 422);
    }

    public function testAKindIsReadAgainFromTheSource(): void
    {
        $this->signIn();
        $job = $this->call(
            'POST',
            '/api/studies/1/tables',
            ['uploadId' => $this->upload("code,x\n0417,1\n12,2\nn/a,3\nred,4\n"), 'name' => 'codes'],
            202,
        );
        $this->work();
        $column = $this->call('GET', '/api/tables/'.$job['subject'])['columns'][0];
        self::assertSame('category', $column['kind']);
        $column = $this->call(
            'PATCH',
            '/api/columns/'.$column['id'],
            ['kind' => 'number'],
            200,
            ['If-Match' => (string) $column['version']],
        );
        self::assertSame(['number', 2, 3], [$column['kind'], $column['misfits'], $column['missing']]);
        $detail = $this->call('GET', '/api/columns/'.$column['id']);
        self::assertSame([[0, '0417'], [3, 'red']], $detail['misfits']);
        $column = $this->call(
            'PATCH',
            '/api/columns/'.$column['id'],
            ['kind' => 'category'],
            200,
            ['If-Match' => (string) $column['version']],
        );
        self::assertSame(0, $column['misfits']);
        self::assertSame('0417', $this->call('GET', '/api/tables/'.$job['subject'].'/rows')['rows'][0]['cells'][0], 'the text was kept');
    }

    public function testTheTargetKeepsItsUse(): void
    {
        $this->signIn();
        $table = $this->entities()->find(DataTable::class, 1);
        $target = $table?->column('return_visit');
        self::assertNotNull($table);
        self::assertNotNull($target);
        $this->call('PATCH', '/api/columns/'.$target->id(), ['use' => 'input'], 409, ['If-Match' => (string) $target->version()]);
        $slot = $table->column('slot');
        self::assertNotNull($slot);
        $this->call('PATCH', '/api/columns/'.$slot->id(), ['use' => 'target'], 422, ['If-Match' => (string) $slot->version()]);
        $this->call('PATCH', '/api/columns/'.$slot->id(), ['kind' => 'nonsense'], 422, ['If-Match' => (string) $slot->version()]);
    }
}
