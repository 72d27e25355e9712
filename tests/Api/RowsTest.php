<?php

declare(strict_types=1);

namespace App\Tests\Api;

use PHPUnit\Framework\Attributes\DataProvider;

/** Records by condition, search and number, over HTTP. */
final class RowsTest extends ApiTestCase
{
    /**
     * @param array<string, mixed> $query
     *
     * @return array<mixed>
     */
    private function rows(array $query, int $expected = 200): array
    {
        foreach (['where', 'columns'] as $name) {
            if (\is_array($query[$name] ?? null)) {
                $query[$name] = json_encode($query[$name], \JSON_THROW_ON_ERROR);
            }
        }

        return $this->call('GET', '/api/tables/1/rows?'.http_build_query($query), null, $expected);
    }

    /**
     * @param array<mixed> $page
     *
     * @return list<?string>
     */
    private static function cells(array $page, string $column): array
    {
        $at = (int) array_search($column, $page['names'], true);

        return array_map(static fn (array $row) => $row['cells'][$at], array_values($page['rows']));
    }

    public function testATableTooLongSaysWhatCannotBeDoneWithItAndIsShownAsItCame(): void
    {
        $this->signIn();
        $this->entities()->getConnection()->executeStatement('UPDATE data_table SET row_count = 4000001 WHERE id = 1');
        self::assertStringContainsString('this table has 4,000,001', $this->rows(['sort' => 'boiler_age', 'limit' => 10], 422)['title']);
        self::assertCount(10, $this->rows(['limit' => 10])['rows']);
        $of = $this->call('GET', '/api/studies/1');
        $refused = $this->call(
            'PUT',
            '/api/studies/1/target',
            ['column' => 'return_visit', 'event' => 'yes'],
            422,
            ['If-Match' => (string) $of['version']],
        );
        self::assertStringContainsString('Up to 2,000,000 records are divided', $refused['title']);
        self::assertSame('return_visit', $this->call('GET', '/api/studies/1')['target'], 'what was chosen before is kept');
    }

    public function testPagesOfASortedTableJoinToTheWholeOrder(): void
    {
        $this->signIn();
        foreach ([0, 1] as $descending) {
            $cells = $lines = [];
            for ($offset = 0; $offset < 1500; $offset += 170) {
                $page = $this->rows([
                    'sort' => 'boiler_age',
                    'descending' => $descending,
                    'limit' => 170,
                    'offset' => $offset,
                    'columns' => ['boiler_age'],
                ]);
                array_push($cells, ...self::cells($page, 'boiler_age'));
                array_push($lines, ...array_column($page['rows'], 'number'));
            }
            self::assertCount(1500, array_unique($lines));
            $known = array_filter($cells, static fn (?string $c) => null !== $c);
            self::assertSame(range(0, \count($known) - 1), array_keys($known), 'missing cells come last');
            $sorted = $known;
            0 === $descending ? sort($sorted, \SORT_NUMERIC) : rsort($sorted, \SORT_NUMERIC);
            self::assertSame($sorted, $known);
            self::assertGreaterThan(100, \count($cells) - \count($known));
        }
    }

    public function testConditionsSortAndPage(): void
    {
        $this->signIn();
        $where = [['boiler_age', 'is missing'], ['days_ahead', 'is over', '9']];
        $page = $this->rows(['where' => $where, 'sort' => 'days_ahead', 'descending' => 1, 'limit' => 200]);
        self::assertSame(1500, $page['all']);
        self::assertCount($page['total'], $page['rows']);
        self::assertSame([null], array_values(array_unique(self::cells($page, 'boiler_age'))));
        $days = array_map(intval(...), self::cells($page, 'days_ahead'));
        $sorted = $days;
        rsort($sorted);
        self::assertSame($sorted, $days);
        self::assertGreaterThan(9, end($days));
        foreach ($where as $i => $condition) {
            self::assertSame($this->rows(['where' => [$where[1 - $i]], 'limit' => 1])['total'], $page['without'][$i]);
        }
        $either = $this->rows(['where' => $where, 'any' => 1, 'limit' => 1])['total'];
        self::assertSame($page['without'][0] + $page['without'][1] - $page['total'], $either);
        $second = $this->rows(['where' => $where, 'sort' => 'days_ahead', 'descending' => 1, 'limit' => 5, 'offset' => 5]);
        self::assertSame(\array_slice(array_column($page['rows'], 'number'), 5, 5), array_column($second['rows'], 'number'));
        self::assertSame(['days_ahead', 'tenure'], $this->rows(['columns' => ['tenure', 'days_ahead'], 'limit' => 1])['names']);
    }

    public function testTheEventsShareIsThatOfRecordsWhoseOutcomeMayBeSeen(): void
    {
        $this->signIn();
        $share = $this->rows(['where' => [['visit_id', 'is present']], 'limit' => 1])['share'];
        self::assertSame(1200, $share['judged']);
        self::assertSame($share['overall'], $share['value']);
        self::assertGreaterThan($share['low'], $share['value']);
        $events = $this->rows(['where' => [['return_visit', 'is', 'yes']], 'limit' => 1]);
        self::assertSame($share['hits'], $events['total'], 'sealed outcomes are not counted');
        self::assertSame($share['hits'], $events['share']['hits']);
        self::assertGreaterThan(0, $events['sealed']);
    }

    public function testSearchLooksInEveryColumn(): void
    {
        $this->signIn();
        $key = self::cells($this->rows(['limit' => 1, 'offset' => 41]), 'visit_id')[0];
        self::assertSame([42], array_column($this->rows(['search' => strtolower((string) $key)])['rows'], 'number'));
        $tenants = $this->rows(['search' => 'TENANT', 'limit' => 200]);
        foreach ($tenants['rows'] as $row) {
            self::assertStringContainsString('tenant', strtolower(implode(' ', $row['cells'])));
        }
        self::assertGreaterThanOrEqual($this->rows(['where' => [['tenure', 'is', 'tenant']], 'limit' => 1])['total'], $tenants['total']);
        self::assertSame(0, $this->rows(['search' => 'nothing has this'])['total']);
    }

    public function testRecordsByNumberAndAsAFile(): void
    {
        $this->signIn();
        self::assertSame([3, 17, 1499], array_column($this->rows(['only' => '17,3,1499,7000'])['rows'], 'number'));
        $this->client->request(
            'GET',
            '/api/tables/1/file?'.http_build_query(['format' => 'csv', 'only' => '17,3', 'sort' => 'visit_id', 'descending' => 1]),
        );
        self::assertResponseIsSuccessful();
        $lines = explode("\r\n", trim((string) $this->client->getInternalResponse()->getContent()));
        self::assertCount(3, $lines);
        self::assertStringStartsWith('V100017', $lines[1]);
    }

    /** @return iterable<array{array<string, mixed>, string}> */
    public static function unclear(): iterable
    {
        yield [['where' => 'days over 9'], 'That is not a JSON list.'];
        yield [['where' => '{"a": 1}'], 'That is not a JSON list.'];
        yield [['where' => [['nowhere', 'is', '1']]], 'There is no column nowhere.'];
        yield [['where' => [['days_ahead', 'is over', 'nine']]], '"nine" is not a number'];
        yield [['where' => [['tenure', 'is', 'squatter']]], 'tenure is never "squatter".'];
        yield [['only' => '1,x'], 'record numbers'];
        yield [['only' => '0'], 'record numbers'];
        yield [['columns' => '[1]'], 'JSON list of names'];
        yield [['sort' => 'nowhere'], 'There is no column nowhere to sort by.'];
        yield [['sort' => 'nowhere', 'search' => 'x'], 'There is no column nowhere to sort by.'];
        yield [['search' => str_repeat('x', 201)], 'too long'];
        yield [['offset' => 'x'], '"offset" should be a whole number'];
    }

    /** @param array<string, mixed> $query */
    #[DataProvider('unclear')]
    public function testAnUnclearQuestionIsSaid(array $query, string $sentence): void
    {
        $this->signIn();
        self::assertStringContainsString(
            $sentence,
            implode(
                ' ',
                array_map(static fn (mixed $v) => \is_string($v) ? $v : json_encode($v, \JSON_THROW_ON_ERROR), $this->rows($query, 422)),
            ),
        );
    }
}
