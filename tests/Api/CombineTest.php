<?php

declare(strict_types=1);

namespace App\Tests\Api;

use Doctrine\DBAL\Connection;

/** Tables made from others, and combinations followed again. */
final class CombineTest extends ApiTestCase
{
    private function import(string $csv, string $name, int $study = 1): int
    {
        $job = $this->call('POST', "/api/studies/$study/tables", ['uploadId' => $this->upload($csv), 'name' => $name], 202);
        $this->work();
        \assert(\is_int($job['subject']));

        return $job['subject'];
    }

    public function testColumnsAreLookedUpByAKeptCombinationThatIsFollowedAgain(): void
    {
        $this->signIn();
        $calls = $this->import("caller,minutes\nA7,3\nB2,5\nC1,\n,9\nA7,4\n", 'calls');
        $people = $this->import("id,area,since\nA7,north,2020-01-02\nB2,south,2021-03-04\nB2,east,2022-01-01\n", 'people');
        $combination = ['kind' => 'look up', 'key' => 'caller', 'otherKey' => 'id', 'columns' => ['area', 'since']];
        $looked = $this->call(
            'POST',
            '/api/studies/1/combinations',
            ['tableId' => $calls, 'otherId' => $people, 'combination' => $combination, 'preview' => true],
        );
        self::assertSame(
            [
                'rowsBefore' => 5,
                'rowsAfter' => 5,
                'columnsBefore' => 2,
                'columnsAfter' => 4,
                'unmatched' => 1,
                'keyless' => 1,
                'multiplied' => 1,
            ],
            $looked['toll'],
        );
        self::assertSame(
            [['caller', 'minutes', 'area', 'since'], ['A7', '3', 'north', '2020-01-02']],
            [$looked['names'], $looked['records'][0]],
        );
        $this->call('POST', '/api/studies/1/combinations', ['tableId' => $calls, 'otherId' => $people, 'combination' => $combination], 422);
        $this->call(
            'POST',
            '/api/studies/1/combinations',
            ['tableId' => $calls, 'otherId' => $people, 'combination' => $combination, 'name' => 'people'],
            422,
        );
        $made = $this->call(
            'POST',
            '/api/studies/1/combinations',
            ['tableId' => $calls, 'otherId' => $people, 'combination' => $combination, 'name' => 'calls with areas'],
            202,
        )['subject'];
        $this->work();
        $table = $this->call('GET', "/api/tables/$made");
        self::assertSame(
            ['ready', 5, ['caller' => 'category', 'minutes' => 'number', 'area' => 'category', 'since' => 'date']],
            [$table['state'], $table['rows'], array_column($table['columns'], 'kind', 'name')],
        );
        self::assertSame(['C1', null, null, null], $this->call('GET', "/api/tables/$made/rows")['rows'][2]['cells']);
        self::assertSame(
            [[
                'tableId' => $made,
                'sourceId' => $calls,
                'sourceName' => 'calls',
                'otherId' => $people,
                'otherName' => 'people',
                'sentence' => 'looks up area and since where caller is its id',
            ]],
            $this->call('GET', '/api/studies/1/combinations'),
        );
        self::assertStringContainsString(
            'Made calls with areas from calls and people, which looks up area',
            json_encode($this->call('GET', '/api/studies/1/logbook'), \JSON_THROW_ON_ERROR),
        );

        $newer = $this->import("caller,minutes\nB2,1\n", 'calls of May');
        self::assertSame(
            ['B2', '1', 'south', '2021-03-04'],
            $this->call('POST', "/api/tables/$made/follow", ['tableId' => $newer, 'preview' => true])['records'][0],
        );
        $again = $this->call('POST', "/api/tables/$made/follow", ['tableId' => $newer, 'name' => 'May with areas'], 202)['subject'];
        $this->work();
        self::assertSame(1, $this->call('GET', "/api/tables/$again")['rows']);
        self::assertStringContainsString(
            'There is no column caller.',
            $this->call('POST', "/api/tables/$made/follow", ['tableId' => $people, 'name' => 'x'], 422)['title'],
        );
        self::assertStringContainsString(
            'was imported, not made',
            $this->call('POST', "/api/tables/$calls/follow", ['tableId' => $newer], 409)['title'],
        );
    }

    public function testNewRecordsGetTheColumnsOfTheCombinationBeforeTheyAreScored(): void
    {
        $this->signIn();
        $calls = "caller,minutes,again\n";
        $people = "id,area,age\n";
        for ($i = 0; $i < 300; ++$i) {
            $calls .= \sprintf("P%03d,%d,%s\n", $i % 100, $i % 17, ($i * 7919 + intdiv($i, 3) * 31) % 10 < ($i % 2 ? 2 : 6) ? 'yes' : 'no');
            $people .= $i < 100 ? \sprintf("P%03d,%s,%d\n", $i, $i % 2 ? 'north' : 'south', 20 + $i % 41) : '';
        }
        $id = $this->call(
            'POST',
            '/api/studies',
            ['name' => 'Calls', 'question' => 'Who calls again?', 'uploadId' => $this->upload($calls, 'calls.csv')],
            201,
        )['id'];
        \assert(\is_int($id));
        $this->work();
        $source = $this->call('GET', "/api/studies/$id")['tableId'];
        $other = $this->import($people, 'people', $id);
        $combination = ['kind' => 'look up', 'key' => 'caller', 'otherKey' => 'id', 'columns' => ['area', 'age']];
        $made = $this->call(
            'POST',
            "/api/studies/$id/combinations",
            ['tableId' => $source, 'otherId' => $other, 'combination' => $combination, 'name' => 'calls with people'],
            202,
        )['subject'];
        $this->work();
        $version = (string) $this->call('GET', "/api/studies/$id")['version'];
        $this->call(
            'PUT',
            "/api/studies/$id/target",
            ['tableId' => $made, 'column' => 'again', 'event' => 'yes'],
            200,
            ['If-Match' => $version],
        );
        $variant = $this->call('GET', "/api/studies/$id/preparation")['variants'][0];
        $this->call('POST', "/api/studies/$id/trials", ['variantId' => $variant['id'], 'learner' => 'logistic'], 202);
        $this->work();
        $trial = $this->call('GET', "/api/studies/$id/trials")['trials'][0]['id'];

        $newer = $this->import("caller,minutes\nP001,4\nP002,9\nX,1\n,2\n", 'calls of May', $id);
        $match = $this->call('POST', "/api/studies/$id/match", ['trialId' => $trial, 'tableId' => $newer]);
        self::assertSame(
            [$made, 'calls with people', 'looks up area and age where caller is its id', 1, 1, null],
            [
                $match['combination']['made'],
                $match['combination']['name'],
                $match['combination']['sentence'],
                $match['combination']['toll']['unmatched'],
                $match['combination']['toll']['keyless'],
                $match['combination']['ready'],
            ],
        );
        self::assertNull(
            $this->call('POST', "/api/studies/$id/match", ['trialId' => $trial, 'tableId' => $made])['combination'],
            'nothing is lacking',
        );
        self::assertNull(
            $this->call('POST', "/api/studies/$id/match", ['trialId' => $trial, 'tableId' => $other])['combination'],
            'the combination cannot be followed',
        );
        $followed = $this->call('POST', "/api/tables/$made/follow", ['tableId' => $newer, 'name' => 'May, with people'], 202)['subject'];
        $this->work();
        self::assertSame(
            $followed,
            $this->call('POST', "/api/studies/$id/match", ['trialId' => $trial, 'tableId' => $newer])['combination']['ready'],
        );
        $match = $this->call('POST', "/api/studies/$id/match", ['trialId' => $trial, 'tableId' => $followed]);
        self::assertSame([null, 2], [$match['combination'], $match['unscorable']]);
        $job = $this->call('POST', "/api/studies/$id/scorings", ['trialId' => $trial, 'tableId' => $followed, 'cutoff' => 0.3], 202);
        $this->work();
        self::assertSame(
            ['done', 4, 2],
            array_values(array_intersect_key(
                $this->call('GET', '/api/scorings/'.$job['subject']),
                ['state' => 0, 'rows' => 0, 'scored' => 0],
            )),
        );
    }

    public function testRecordsAreGathered(): void
    {
        $this->signIn();
        $combination = [
            'kind' => 'gather',
            'key' => 'household_id',
            'figures' => [
                ['how' => 'count'],
                ['how' => 'mean', 'column' => 'days_ahead'],
                ['how' => 'share', 'column' => 'tenure', 'value' => 'tenant'],
                ['how' => 'latest', 'column' => 'slot', 'by' => 'visit_date'],
            ],
        ];
        $looked = $this->call('POST', '/api/studies/1/combinations', ['tableId' => 1, 'combination' => $combination, 'preview' => true]);
        self::assertSame(
            [1500, ['household_id', 'records', 'mean_days_ahead', 'share_tenure_tenant', 'latest_slot']],
            [$looked['toll']['rowsBefore'], $looked['names']],
        );
        $made = $this->call(
            'POST',
            '/api/studies/1/combinations',
            ['tableId' => 1, 'combination' => $combination, 'name' => 'by household'],
            202,
        )['subject'];
        $this->work();
        $table = $this->call('GET', "/api/tables/$made");
        self::assertSame($looked['toll']['rowsAfter'], $table['rows']);
        self::assertSame('identifier', $table['columns'][0]['kind']);
        foreach ([
            ['kind' => 'stir'],
            ['kind' => 'gather', 'key' => 'nowhere', 'figures' => [['how' => 'count']]],
            ['kind' => 'look up', 'key' => 'slot', 'otherKey' => 'id', 'columns' => ['x']],
        ] as $wrong) {
            $this->call('POST', '/api/studies/1/combinations', ['tableId' => 1, 'combination' => $wrong, 'preview' => true], 422);
        }
        $this->call('POST', '/api/studies/1/combinations', ['tableId' => 999, 'combination' => $combination, 'preview' => true], 422);
    }

    public function testRecordsAreDrawnByChanceWithTheColumnsAsTheyAre(): void
    {
        $this->signIn();
        $lines = array_map(
            static fn (int $n): string => \sprintf('V%05d,%d,%s,2026-01-%02d', $n, $n, 0 === $n % 3 ? '' : 'it is '.$n % 2, 1 + $n % 28),
            range(0, 9999),
        );
        $visits = $this->import("visit,at,what,day\n".implode("\n", $lines)."\n", 'long');
        $column = array_column($this->call('GET', "/api/tables/$visits")['columns'], 'id', 'name')['what'];
        $version = (string) array_column($this->call('GET', "/api/tables/$visits")['columns'], 'version', 'id')[$column];
        $this->call('PATCH', "/api/columns/$column", ['use' => 'set aside'], 200, ['If-Match' => $version]);
        $asked = ['tableId' => $visits, 'combination' => ['kind' => 'draw', 'records' => 2500, 'seed' => 4]];
        $looked = $this->call('POST', '/api/studies/1/combinations', ['preview' => true] + $asked);
        self::assertSame(
            ['draws 2,500 records by chance, with seed 4', 10000, 2500, ['visit', 'at', 'what', 'day'], 10],
            [
                $looked['sentence'],
                $looked['toll']['rowsBefore'],
                $looked['toll']['rowsAfter'],
                $looked['names'],
                \count($looked['records']),
            ],
        );
        $made = $this->call('POST', '/api/studies/1/combinations', ['name' => 'a part'] + $asked, 202)['subject'];
        $this->work();
        $table = $this->call('GET', "/api/tables/$made");
        self::assertSame(
            [2500, ['identifier', 'number', 'category', 'date'], 'set aside'],
            [$table['rows'], array_column($table['columns'], 'kind'), array_column($table['columns'], 'use', 'name')['what']],
        );
        $rows = array_column(array_merge(...array_map(
            fn (int $from): array => $this->call('GET', "/api/tables/$made/rows?limit=200&offset=$from")['rows'],
            range(0, 2400, 200),
        )), 'cells');
        self::assertSame($looked['records'], \array_slice($rows, 0, 10));
        self::assertSame(2500, \count(array_unique(array_column($rows, 0))));
        foreach ($rows as [$visit, $at, $what, $day]) {
            $n = (int) substr((string) $visit, 1);
            self::assertSame(
                $lines[$n],
                \sprintf('%s,%s,%s,%s', $visit, $at, $what, $day),
                'each record as it stands in the table it was drawn from',
            );
        }
        foreach ([['records' => 0], ['records' => -3], ['records' => 'all'], ['records' => 5, 'seed' => 'x'], []] as $wrong) {
            $this->call(
                'POST',
                '/api/studies/1/combinations',
                ['tableId' => $visits, 'combination' => ['kind' => 'draw'] + $wrong, 'preview' => true],
                422,
            );
        }
    }

    public function testASealedRecordThatIsDrawnStaysSealed(): void
    {
        $this->signIn();
        $asked = ['tableId' => 1, 'combination' => ['kind' => 'draw', 'records' => 1000], 'name' => 'a part of the visits'];
        $looked = $this->call('POST', '/api/studies/1/combinations', ['preview' => true] + $asked);
        self::assertStringContainsString('sealed', (string) $looked['sealed']);
        $made = $this->call('POST', '/api/studies/1/combinations', $asked, 202)['subject'];
        $this->work();
        $told = array_column($this->call('GET', "/api/tables/$made")['columns'], null, 'name')['return_visit'];
        // A fifth is sealed: of 1,000 drawn about 200 have no outcome here, and the column is no input.
        self::assertEqualsWithDelta(200, $told['missing'], 50);
        self::assertSame(['set aside', false], [$told['use'], $told['known']]);
    }

    public function testWhatIsTooLargeForAPageIsRefusedWithWhatToDo(): void
    {
        $this->signIn();
        $table = $this->import("id,km,came\n".implode('', array_map(static fn (int $n): string => "r$n,$n,no\n", range(1, 60))), 'long');
        $sql = $this->service(Connection::class);
        $large = static fn (int $rows): int|string => $sql->executeStatement(
            'UPDATE data_table SET row_count = ? WHERE id = ?',
            [$rows, $table],
        );
        $large(2_000_001);
        $version = (string) $this->call('GET', '/api/studies/1')['version'];
        $asked = ['tableId' => $table, 'column' => 'km', 'task' => 'number'];
        $refused = $this->call('PUT', '/api/studies/1/target', $asked, 422, ['If-Match' => $version]);
        self::assertSame('tableId', $refused['field']);
        self::assertStringContainsString('long has 2,000,001. Make a smaller table of it first', $refused['title']);
        $large(7_000_000);
        $gather = ['tableId' => $table, 'combination' => ['kind' => 'gather', 'key' => 'id', 'figures' => [['how' => 'count']]]];
        $refused = $this->call('POST', '/api/studies/1/combinations', ['preview' => true] + $gather, 422);
        self::assertSame(
            'Tables of up to 20 million cells are combined; long has 21 million. Draw some of its records first.',
            $refused['title'],
        );
        $large(60);
        $drawn = $this->call('POST', '/api/studies/1/combinations', [
            'tableId' => $table, 'combination' => ['kind' => 'draw', 'records' => 100], 'preview' => true,
        ]);
        self::assertSame(60, $drawn['toll']['rowsAfter'], 'there are no more');
    }
}
