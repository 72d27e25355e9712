<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Account\Accounts;
use App\Study\Role;
use App\Study\Study;
use App\Study\StudyMember;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Component\Routing\RouterInterface;

/**
 * The law of the seal: two files that differ in nothing but the outcomes, and the cells known only afterwards, of sealed rows give the same
 * answer at every route until the seal is opened.
 */
final class SealTest extends ApiTestCase
{
    /** Routes that may differ, for the owner alone: the source as it was imported, and what callers sent. */
    private const BEHIND = ['/api/tables/{id}/source', '/api/services/{id}/kept'];
    /** Routes of no study, of work under way, and of the page itself. */
    private const OF_NO_STUDY = [
        '/api/uploads/{id}',
        '/api/uploads/{id}/reading',
        '/api/health',
        '/api/notices',
        '/api/setup',
        '/api/jobs',
        '/api/jobs/{id}',
        '/api/accounts',
        '/api/audit',
        '/api/me/safety',
        '/api/connections',
        '/api/examples',
        '/api/learners',
        '/api/steps',
        '/api/session',
        '/api/studies',
        '/api/studies/deleted',
    ];
    private const ROWS = 500;

    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
    }

    /** @return iterable<string, array{array<string, mixed>, string, string}> */
    public static function targets(): iterable
    {
        yield 'an event' => [
            ['column' => 'again', 'task' => 'two classes', 'event' => 'yes'],
            'logistic',
            '[["again", "is one of", "yes"]]',
        ];
        yield 'several classes' => [['column' => 'kind', 'task' => 'several classes'], 'tree', '[["kind", "is one of", "b"]]'];
        yield 'a number' => [['column' => 'minutes', 'task' => 'number'], 'tree', '[["minutes", "is at least", "55"]]'];
    }

    /** @param array<string, mixed> $target */
    #[DataProvider('targets')]
    public function testNothingTellsSealedOutcomesApart(array $target, string $learner, string $where): void
    {
        // By a marker, so that the same rows are sealed whatever their outcomes are.
        $target += ['way' => 'marker', 'by' => 'part', 'validation' => 'b', 'sealedValue' => 'c', 'seed' => 7];
        $worlds = [];
        foreach ([false, true] as $other) {
            [$id, $table] = $this->studyOf($this->records($other), $target);
            self::assertSame(intdiv(self::ROWS, 5), $this->call('GET', "/api/studies/$id")['sealedRows']);
            $worlds[] = $this->everything($id, $table, $learner, $where);
        }
        self::assertSame(array_keys($worlds[0]), array_keys($worlds[1]));
        foreach ($worlds[0] as $path => $answer) {
            self::assertTrue($answer === $worlds[1][$path], $path.' '.self::difference($answer, $worlds[1][$path]));
        }
        self::assertGreaterThan(60, \count($worlds[0]));
    }

    public function testWhatIsMadeFromAnOutcomeIsNoInputAndALaterEditionKeepsItSealed(): void
    {
        [$study, $table] = $this->studyOf(
            $this->records(false),
            ['column' => 'again', 'event' => 'yes', 'way' => 'marker', 'by' => 'part', 'validation' => 'b', 'sealedValue' => 'c'],
        );
        $gather = [
            'kind' => 'gather',
            'key' => 'house',
            'figures' => [['how' => 'share', 'column' => 'again', 'value' => 'yes'], ['how' => 'mean', 'column' => 'size']],
        ];
        self::assertStringContainsString(
            'again, kind, minutes and parts_after stay sealed in 100 records of calls',
            (string) $this->call(
                'POST',
                "/api/studies/$study/combinations",
                ['tableId' => $table, 'combination' => $gather, 'preview' => true],
            )['sealed'],
        );
        $by = $this->call(
            'POST',
            "/api/studies/$study/combinations",
            ['tableId' => $table, 'combination' => $gather, 'name' => 'by house'],
            202,
        )['subject'];
        $this->work();
        self::assertSame(
            ['house' => ['key', true], 'share_again_yes' => ['set aside', false], 'mean_size' => ['input', true]],
            $this->uses($by),
        );
        $joined = $this->call(
            'POST',
            "/api/studies/$study/combinations",
            [
                'tableId' => $table,
                'otherId' => $by,
                'combination' => [
                    'kind' => 'look up',
                    'key' => 'house',
                    'otherKey' => 'house',
                    'columns' => ['share_again_yes', 'mean_size'],
                ],
                'name' => 'joined',
            ],
            202,
        )['subject'];
        $this->work();
        $uses = $this->uses($joined);
        self::assertSame(
            [['set aside', false], ['set aside', false], ['input', true], ['input', true]],
            [$uses['again'], $uses['share_again_yes'], $uses['mean_size'], $uses['size']],
        );

        // The same records once more, and some new ones, as the next edition.
        $job = $this->call(
            'POST',
            "/api/studies/$study/tables",
            ['uploadId' => $this->upload($this->records(false)."900,a,north,5,note,2026-01-01,H1,yes,a,50,\n"), 'name' => 'calls'],
            202,
        );
        $this->work();
        $rows = $this->call('GET', '/api/tables/'.$job['subject'].'/rows?limit=200&offset=400')['rows'];
        self::assertSame(['900', 'yes', false], [$rows[100]['cells'][0], $rows[100]['cells'][7], $rows[100]['sealed']]);
        self::assertSame([true, null], [$rows[99]['sealed'], $rows[99]['cells'][7]], 'a sealed record is known again');

        $where = '?where='.urlencode('[["again", "is missing"]]');
        $found = $this->call('GET', "/api/tables/$table/rows$where");
        self::assertSame([0, 100], [$found['total'], $found['sealed']], 'hidden is not missing');
        $trial = $this->call(
            'POST',
            "/api/studies/$study/trials",
            ['variantId' => $this->call('GET', "/api/studies/$study/preparation")['variants'][0]['id'], 'learner' => 'baseline'],
            202,
        )['subject'];
        $this->work();
        self::assertSame([], $this->call('GET', "/api/tables/$table/rows?search=nothing-here")['rows']);
        $this->call('POST', "/api/trials/$trial/seal");
        self::assertSame([], $this->call('GET', "/api/tables/$table/rows")['hidden'], 'opened');
        self::assertNotNull($this->call('GET', "/api/tables/$table/rows?offset=4&limit=1")['rows'][0]['cells'][7]);
    }

    public function testTheSourceIsTheOwnersAndTakingItIsWrittenDown(): void
    {
        [$study, $table] = $this->studyOf(
            $csv = $this->records(false),
            ['column' => 'minutes', 'task' => 'number', 'way' => 'marker', 'by' => 'part', 'validation' => 'b', 'sealedValue' => 'c'],
        );
        $this->client->request('GET', "/api/tables/$table/source");
        self::assertSame($csv, $this->client->getInternalResponse()->getContent());
        self::assertStringContainsString(
            'Took the source of calls as it was imported, with the outcomes of its 100 sealed rows',
            (string) json_encode($this->call('GET', "/api/studies/$study/logbook")),
        );
        $second = $this->studyOf($csv, ['column' => 'again', 'event' => 'yes', 'folds' => 2, 'repeats' => 1])[0];
        self::assertSame(
            ['Another study keeps 100 of the same records sealed for minutes. Who looks at their outcomes here has seen them there.'],
            $this->call('GET', "/api/studies/$second")['otherSeals'],
        );
        $of = $this->entities()->find(Study::class, $study);
        self::assertNotNull($of);
        $this->entities()->persist(new StudyMember(
            $of,
            $this->service(Accounts::class)->add('ella', 'Ella Dorn', 'a-long-password'),
            Role::Editor,
        ));
        $this->entities()->flush();
        $this->signIn('ella');
        $this->call('GET', "/api/tables/$table/source", null, 403);
        self::assertSame(50, \count($this->call('GET', "/api/tables/$table/rows")['rows']));
    }

    /** @return array<string, array{string, bool}> use and whether it is known, by column */
    private function uses(mixed $table): array
    {
        \assert(\is_int($table));

        return array_map(
            static fn (array $c): array => [$c['use'], $c['known']],
            array_column($this->call('GET', "/api/tables/$table")['columns'], null, 'name'),
        );
    }

    /** @param bool $other whether hidden cells of sealed rows are others */
    private function records(bool $other): string
    {
        mt_srand(11);
        $lines = ['number,part,area,size,note,date,house,again,kind,minutes,parts_after'];
        for ($i = 0; $i < self::ROWS; ++$i) {
            $size = mt_rand(1, 900);
            $hidden = [
                [
                    mt_rand(0, 99) < 30 + $size / 30 ? 'yes' : 'no',
                    'abc'[mt_rand(0, 2)],
                    (string) (mt_rand(20, 80) + intdiv($size, 20)),
                    mt_rand(0, 2) > 0 ? (string) mt_rand(1, 30) : '',
                ],
                [mt_rand(0, 1) ? 'yes' : 'no', 'abc'[mt_rand(0, 2)], (string) mt_rand(1, 500), (string) mt_rand(0, 99)],
            ];
            $lines[] = implode(
                ',',
                [
                    $i,
                    'aabac'[$i % 5],
                    ['north', 'south', 'west'][mt_rand(0, 2)],
                    0 === $i % 9 ? '' : $size,
                    'calls about '.['noise', 'water', 'heat'][mt_rand(0, 2)].' and '.['a valve', 'the pump', 'a pipe'][mt_rand(0, 2)],
                    \sprintf('2026-%02d-%02d', mt_rand(1, 12), mt_rand(1, 28)),
                    'H'.mt_rand(100, 260),
                    ...$hidden[$other && 4 === $i % 5 ? 1 : 0],
                ],
            );
        }

        return implode("\n", $lines)."\n";
    }

    /**
     * @param array<string, mixed> $target
     *
     * @return array{int, int} study and table
     */
    private function studyOf(string $csv, array $target): array
    {
        $id = $this->call(
            'POST',
            '/api/studies',
            ['name' => 'Sealed', 'question' => 'Does it hold?', 'uploadId' => $this->upload($csv, 'calls.csv')],
            201,
        )['id'];
        \assert(\is_int($id));
        $this->work();
        $table = $this->call('GET', "/api/studies/$id")['tableId'];
        \assert(\is_int($table));
        $columns = array_column($this->call('GET', "/api/tables/$table")['columns'], null, 'name');
        // What is predicted, and what is known only afterwards.
        foreach (['again', 'kind', 'minutes', 'parts_after'] as $name) {
            if ($name !== $target['column']) {
                $this->call(
                    'PATCH',
                    '/api/columns/'.$columns[$name]['id'],
                    ['known' => false],
                    200,
                    ['If-Match' => (string) $columns[$name]['version']],
                );
            }
        }
        $this->aim($id, $target);

        return [$id, $table];
    }

    /** @param array<string, mixed> $target */
    private function aim(int $id, array $target): void
    {
        $this->call(
            'PUT',
            "/api/studies/$id/target",
            $target,
            200,
            ['If-Match' => (string) $this->call('GET', "/api/studies/$id")['version']],
        );
    }

    /** @var list<mixed> a search, and a guided one */
    private array $searches = [];
    private int $atWork = 0;
    private int $taken = 0;

    /** @return array<string, string> what each route answers, with identities taken out */
    private function everything(int $study, int $table, string $learner, string $where): array
    {
        // Tables made from the study's table, a later edition, a trial, and its own table scored.
        $gather = $this->call(
            'POST',
            "/api/studies/$study/combinations",
            [
                'tableId' => $table,
                'combination' => [
                    'kind' => 'gather',
                    'key' => 'house',
                    'figures' => [
                        ['how' => 'mean', 'column' => 'minutes'],
                        ['how' => 'share', 'column' => 'again', 'value' => 'yes'],
                        ['how' => 'count'],
                    ],
                ],
                'name' => 'by house',
            ],
            202,
        )['subject'];
        $this->work();
        $joined = $this->call(
            'POST',
            "/api/studies/$study/combinations",
            [
                'tableId' => $table,
                'otherId' => $gather,
                'combination' => [
                    'kind' => 'look up',
                    'key' => 'house',
                    'otherKey' => 'house',
                    'columns' => ['mean_minutes', 'share_again_yes', 'records'],
                ],
                'name' => 'joined',
            ],
            202,
        )['subject'];
        $this->work();
        $source = $this->entities()->getConnection()->fetchFirstColumn(
            'SELECT bytes FROM source_block WHERE table_id = ? ORDER BY block',
            [$table],
        );
        $variant = $this->call('GET', "/api/studies/$study/preparation")['variants'][0];
        $this->call(
            'PUT',
            '/api/variants/'.$variant['id'],
            ['steps' => [['step' => 'fill_missing', 'columns' => ['size'], 'method' => 'median', 'mark' => true]]],
            200,
            ['If-Match' => (string) $variant['version']],
        );
        $trials = [];
        foreach ([$learner, 'baseline'] as $name) {
            $trials[] = $this->call(
                'POST',
                "/api/studies/$study/trials",
                ['variantId' => $variant['id'], 'learner' => $name],
                202,
            )['subject'];
            $this->work();
        }
        // A search, a guided one, and a learning curve: none of them may know what is sealed.
        $space = 'logistic' === $learner ? [
            'logistic',
            ['penalty' => ['list' => ['ridge', 'lasso']]],
        ] : ['tree', ['depth' => ['list' => [2, 3]]]];
        $search = $this->call(
            'POST',
            "/api/studies/$study/searches",
            ['variantIds' => [$variant['id']], 'spaces' => [['learner' => $space[0], 'settings' => $space[1]]]],
            202,
        );
        $this->work();
        // Every learner gets its rows from the same ground: a few stand for all.
        $without = ['boosting', 'forest', 'rules', 'multinomial', 'linear', 'neural-network', 'additive', 'neighbors', 'bayes-network'];
        $guided = $this->call(
            'POST',
            "/api/studies/$study/guided",
            ['variantId' => $variant['id'], 'tries' => 4, 'without' => $without],
            202,
        );
        $this->work();
        $this->call('POST', "/api/trials/$trials[0]/curve", null, 202);
        $this->work();
        $this->searches = [$search['subject'], $guided['subject']];
        // A model at work hands out the inputs of records, and what it was approved on.
        $cutoff = 'logistic' === $learner ? ['cutoff' => 0.3] : [];
        $approval = $this->call(
            'POST',
            "/api/trials/$trials[0]/approvals",
            ['sentence' => 'Better than nothing.', 'limits' => 'None known.', 'again' => '2099-04-30', 'rule' => 'refuse'] + $cutoff,
            201,
        );
        $this->atWork = (int) $this->call(
            'POST',
            "/api/studies/$study/services",
            ['name' => "of-study-$study", 'approvalId' => $approval['id']],
            201,
        )['id'];
        $this->taken = (int) $this->call('POST', "/api/trials/$trials[0]/take-away", ['form' => 'json'], 201)['id'];
        $names = $ids = [];
        foreach ([$table, $gather, $joined] as $one) {
            foreach ($this->call('GET', "/api/tables/$one")['columns'] as $column) {
                $ids[] = $column['id'];
                if ($one === $table) {
                    $names[] = $column['name'];
                }
            }
        }
        self::assertNotSame([], $source);
        $out = [];
        foreach ($this->service(RouterInterface::class)->getRouteCollection() as $route) {
            $path = $route->getPath();
            if (!str_starts_with($path, '/api/') || !\in_array('GET', $route->getMethods() ?: ['GET'], true) || \in_array(
                $path,
                [...self::BEHIND, ...self::OF_NO_STUDY],
                true,
            )) {
                continue;
            }
            foreach ($this->asked(
                $path,
                $study,
                [$table, (int) $gather, (int) $joined],
                $trials,
                $ids,
                (int) $variant['id'],
                $names,
                $where,
            ) as $i => $address) {
                $this->client->request('GET', $address, server: ['HTTP_ACCEPT' => 'application/json']);
                $response = $this->client->getResponse();
                if (202 === $response->getStatusCode()) {
                    $this->work();
                    $this->client->request('GET', $address, server: ['HTTP_ACCEPT' => 'application/json']);
                    $response = $this->client->getResponse();
                }
                self::assertContains(
                    $response->getStatusCode(),
                    str_starts_with($path, '/api/tables/') ? [200] : [200, 404, 409, 422],
                    $address.': '.substr((string) $response->getContent(), 0, 300),
                );
                $out[$path.' '.$i] = self::blanked(
                    $response->getStatusCode().' '.('' === (string) $response->getContent() ? $this->client->getInternalResponse()->getContent() : (string) $response->getContent()),
                );
            }
        }
        foreach ([['kind' => 'gather', 'key' => 'house', 'figures' => [['how' => 'mean', 'column' => 'minutes']]]] as $combination) {
            $out['preview of a combination'] = self::blanked((string) json_encode($this->call(
                'POST',
                "/api/studies/$study/combinations",
                ['tableId' => $table, 'combination' => $combination, 'preview' => true],
            )));
        }
        foreach ([
            'set_aside' => ['columns' => ['note']],
            'encode' => ['columns' => ['area'], 'way' => 'target mean'],
        ] as $step => $settings) {
            $this->client->request(
                'POST',
                '/api/variants/'.$variant['id'].'/preview',
                server: ['CONTENT_TYPE' => 'application/json'],
                content: (string) json_encode(['steps' => [['step' => $step] + $settings], 'look' => 0]),
            );
            $out['preview of '.$step] = self::blanked((string) $this->client->getResponse()->getContent());
        }
        $this->work();
        foreach ($this->entities()->getConnection()->fetchAllAssociative(
            'SELECT c.name, c.visible, t.name AS tname FROM table_column c JOIN data_table t ON t.id = c.table_id WHERE t.study_id = ? AND c.visible IS NOT NULL ORDER BY c.id',
            [$study],
        ) as $row) {
            $out['kept of '.json_encode([$row['tname'], $row['name']])] = (string) json_encode($row['visible']);
        }

        return $out;
    }

    /**
     * @param list<int>    $tables
     * @param list<mixed>  $trials
     * @param list<int>    $columns
     * @param list<string> $names
     *
     * @return list<string>
     */
    private function asked(
        string $path,
        int $study,
        array $tables,
        array $trials,
        array $columns,
        int $variant,
        array $names,
        string $where,
    ): array {
        $each = static fn (array $ids, array $queries = ['']): array => array_merge(...array_map(
            static fn ($id) => array_map(
                static fn (string $q) => str_replace(['{id}', '{number}'], [(string) $id, '1'], $path).$q,
                $queries,
            ),
            $ids,
        ) ?: [[]]);
        $sorts = array_merge(...array_map(static fn (string $n) => ['?limit=200&sort='.$n, '?limit=200&descending=1&sort='.$n], $names));
        $asks = [
            '?where='.urlencode($where),
            '?where='.urlencode('[["parts_after", "is missing"], ["area", "is one of", "north"]]'),
            '?search=yes',
            '?search=55',
            '?where='.urlencode($where).'&any=1&sort=minutes',
        ];

        $addresses = match (true) {
            '/api/tables/{id}/rows' === $path => [
                ...$each([$tables[0]], ['?limit=200', '?limit=200&offset=200', ...$sorts, ...$asks]),
                ...$each(\array_slice($tables, 1), ['?limit=200']),
            ],
            '/api/tables/{id}/file' === $path => [
                ...$each($tables, ['?format=csv', '?format=jsonl']),
                ...$each([$tables[0]], array_map(static fn (string $q) => $q.'&format=csv', $asks)),
            ],
            '/api/tables/{id}/pictures/two' === $path => $each(
                [$tables[0]],
                ['?x=size&y=minutes', '?x=again&y=kind', '?x=parts_after&y=area'],
            ),
            '/api/tables/{id}/pictures/repeats' === $path => $each([$tables[0]], ['', '?columns='.urlencode('["again","kind","area"]')]),
            '/api/tables/{id}/goes-with' === $path => $each(
                [$tables[0]],
                array_map(static fn (string $n): string => '?column='.$n, ['size', 'minutes', 'again', 'kind', 'parts_after']),
            ),
            str_starts_with($path, '/api/tables/') => $each($tables),
            str_starts_with($path, '/api/columns/') => $each($columns),
            str_starts_with($path, '/api/variants/') => $each([$variant]),
            '/api/trials/{id}/reasons/{number}' === $path => array_map(
                static fn (int $n) => "/api/trials/{$trials[0]}/reasons/$n",
                [1, 2, 3, 4, 5, 6, 7, 8],
            ),
            '/api/trials/{id}/groups' === $path => $each($trials, ['', '?by=area', '?by=kind']),
            '/api/trials/{id}/against' === $path => ["/api/trials/{$trials[0]}/against?other={$trials[1]}"],
            str_starts_with($path, '/api/trials/') => $each($trials),
            str_starts_with($path, '/api/studies/{id}/preparation/compare') => $each([$study]),
            str_starts_with($path, '/api/studies/') => $each([$study]),
            '/api/searches/{id}' === $path => $each([$this->searches[0]]),
            '/api/guided/{id}' === $path => $each([$this->searches[1]]),
            '/api/services/{id}/records/{number}' === $path => array_map(
                fn (int $n) => "/api/services/$this->atWork/records/$n",
                range(1, 8),
            ),
            str_starts_with($path, '/api/services/') => $each([$this->atWork]),
            '/api/taken/{id}/file' === $path => $each([$this->taken]),
            str_starts_with($path, '/api/scorings/'), str_starts_with($path, '/api/decisions/') => [],
            default => self::fail('The law does not know the route '.$path.': say here how it is asked.'),
        };

        return array_values(array_map(strval(...), $addresses));
    }

    /** Where two answers part; whole ones are too long to be shown side by side. */
    private static function difference(string $a, string $b): string
    {
        $at = strspn($a ^ $b, "\0");

        return \sprintf("part at %d:\n%s\n%s", $at, substr($a, max(0, $at - 100), 300), substr($b, max(0, $at - 100), 300));
    }

    /** Numbers of things, times and fingerprints differ between any two studies. */
    private static function blanked(string $answer): string
    {
        return (string) preg_replace(
            [
                '/"(id|[a-z]+Id|version|made|subject|number|strongest|clearest)":\d+/',
                '/"\d{4}-\d\d-\d\dT[^"]*"/',
                '/in \d+(\.\d+)? s\b/',
                '/"[0-9a-f]{16,64}"/',
                '/of-study-\d+/',
                // Links to screens name studies, trials and batches.
                '/href=\\\\u0022.*?\\\\u0022/',
                '/"(seconds|fitSeconds|took|startedAt|endedAt|begun)":[0-9.e-]+/',
            ],
            ['"$1":0', '"time"', 'in 0 s', '"print"', 'of-study', 'href', '"$1":0'],
            $answer,
        );
    }
}
