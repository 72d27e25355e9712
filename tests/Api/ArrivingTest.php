<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Job\Job;
use App\Job\Piece;
use App\Table\ColumnView;
use App\Table\DataTable;
use App\Table\ImportRunner;
use Dokimos\Core\Progress;

/** A large table shows what its beginning says while it is read, and nothing can be done with it before its end. */
final class ArrivingTest extends ApiTestCase
{
    public function testColumnsShowAtOnceAndAreFinishedOneByOne(): void
    {
        $this->signIn();
        $lines = ["id,km,late,note\n"];
        for ($i = 0; $i < 220000; ++$i) {
            // What the beginning says need not hold: words come late in "late".
            $lines[] = \sprintf("V%06d,%d.%d,%s,a note with some words\n", $i, $i % 90, $i % 7, $i < 200000 ? $i % 5 : 'unknown');
        }
        $csv = implode('', $lines);
        self::assertGreaterThan(8 << 20, \strlen($csv));
        $started = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $this->upload($csv), 'name' => 'large'], 202);
        $path = '/api/tables/'.$started['subject'];
        $job = $this->entities()->find(Job::class, $started['id']);
        $table = $this->entities()->find(DataTable::class, $started['subject']);
        $piece = $this->entities()->getRepository(Piece::class)->findOneBy(['job' => $job, 'key' => 'columns 0']);
        \assert(null !== $job && null !== $table && null !== $piece);
        $seen = new class($table) implements Progress {
            /** @var list<array<string, array{string, ?int, int}>> */
            public array $states = [];

            public function __construct(private readonly DataTable $table)
            {
            }

            public function report(float $share, string $message = ''): void
            {
                $views = array_map(ColumnView::of(...), $this->table->columns());
                $this->states[] = array_combine(
                    array_column($views, 'name'),
                    array_map(
                        static fn (ColumnView $v) => [$v->kind, null === $v->first ? null : intdiv($v->first, 10000), $v->distinct],
                        $views,
                    ),
                );
            }
        };
        $this->service(ImportRunner::class)->run($job, $piece, $seen);
        self::assertSame(
            ['id' => ['identifier', 5, $seen->states[0]['id'][2]], 'late' => ['number', 5, 5]],
            $seen->states[0],
            'from the beginning, before the first report',
        );
        self::assertSame(
            ['id' => ['identifier', null, 220000], 'late' => ['category', null, 6]],
            $seen->states[array_key_last($seen->states)],
        );

        $register = $this->call('GET', $path);
        self::assertSame(['importing', ['id', 'late']], [$register['state'], array_column($register['columns'], 'name')]);
        $column = $register['columns'][0]['id'];
        foreach ([
            ['GET', $path.'/rows'],
            ['GET', $path.'/file'],
            ['GET', $path.'/findings'],
            ['GET', $path.'/pictures/missing'],
            ['GET', '/api/columns/'.$column],
            ['GET', '/api/columns/'.$column.'/more'],
            ['POST', $path.'/columns', ['versions' => [(string) $column => 1]]],
        ] as $request) {
            self::assertSame('The table is still being read.', $this->call($request[0], $request[1], $request[2] ?? null, 409)['title']);
        }
        $this->call('PATCH', '/api/columns/'.$column, ['use' => 'set aside'], 409, ['If-Match' => '1']);
        $this->work();
        $register = $this->call('GET', $path);
        self::assertSame(
            ['ready', 220000, [null, null, null, null]],
            [$register['state'], $register['rows'], array_column($register['columns'], 'first')],
        );
    }
}
