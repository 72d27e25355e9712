<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Operation\Housekeeping;
use Doctrine\DBAL\Connection;

/** What was never finished does not stay for ever: counted. */
final class HousekeepingTest extends ApiTestCase
{
    private function number(string $sql): int
    {
        $count = $this->service(Connection::class)->fetchOne($sql);

        return is_numeric($count) ? (int) $count : -1;
    }

    /** @return list<string> */
    private function files(int $id): array
    {
        return glob($_SERVER['DOKIMOS_DATA']."/uploads/$id.part*") ?: [];
    }

    public function testFilesThatNobodyImportedAreClearedAfterADay(): void
    {
        $this->signIn();
        $old = $this->upload("a,b\n1,2\n", 'old.csv');
        $fresh = $this->upload("a,b\n1,2\n", 'fresh.csv');
        $waiting = $this->upload("a,b\n1,2\n", 'waiting.csv');
        $this->call('GET', "/api/uploads/$old/reading");
        $this->call('POST', '/api/studies/1/tables', ['uploadId' => $waiting, 'name' => 'waiting'], 202);
        file_put_contents($_SERVER['DOKIMOS_DATA'].'/uploads/999999.part', 'of no upload');
        $this->service(Connection::class)->executeStatement(
            "UPDATE upload SET created_at = '2020-01-01 00:00:00' WHERE id IN (?, ?)",
            [$old, $waiting],
        );
        $before = $this->number('SELECT COUNT(*) FROM upload');
        $said = implode(' ', $this->service(Housekeeping::class)->run());
        self::assertStringContainsString('1 files that were sent and not imported', $said);
        self::assertSame($before - 1, $this->number('SELECT COUNT(*) FROM upload'));
        self::assertSame(
            [[], 1, 1, []],
            [$this->files($old), \count($this->files($fresh)), \count($this->files($waiting)), $this->files(999999)],
        );
        $this->work();
        self::assertSame([], $this->files($waiting), 'what was imported is kept in the store');
    }

    public function testCountsOfAttemptsAreClearedOnceTheyAreOver(): void
    {
        for ($i = 0; $i < 2; ++$i) {
            $this->call('POST', '/api/sign-in', ['login' => 'nobody', 'password' => 'no'], 401);
        }
        $all = "SELECT COUNT(*) FROM cache_items WHERE item_id NOT LIKE 'kept:%'";
        self::assertGreaterThan(0, $this->number($all));
        $this->service(Housekeeping::class)->run();
        self::assertGreaterThan(0, $this->number($all), 'they still count');
        $this->service(Connection::class)->executeStatement('UPDATE cache_items SET item_time = item_time - 86400');
        $this->service(Housekeeping::class)->run();
        self::assertSame(0, $this->number($all));
    }

    public function testAFailedImportLeavesNoColumnsAndACancelledTrialNoResults(): void
    {
        $this->signIn();
        $columns = $this->number('SELECT COUNT(*) FROM table_column');
        $chunks = $this->number('SELECT COUNT(*) FROM column_chunk');
        // A file that changes its width in the middle is read up to there, then refused.
        $job = $this->call(
            'POST',
            '/api/studies/1/tables',
            ['uploadId' => $this->upload("a,b\n".str_repeat("1,2\n", 500).'"open', 'broken.csv'), 'name' => 'broken'],
            202,
        );
        $this->call('POST', '/api/jobs/'.$job['id'].'/cancel');
        $this->work();
        self::assertContains($this->call('GET', '/api/jobs/'.$job['id'])['state'], ['failed', 'cancelled']);
        self::assertSame(
            [$columns, $chunks],
            [$this->number('SELECT COUNT(*) FROM table_column'), $this->number('SELECT COUNT(*) FROM column_chunk')],
        );

        $results = $this->number('SELECT COUNT(*) FROM fold_result');
        $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
        $trial = $this->call('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => 'baseline'], 202);
        $this->work(pieces: 2);
        self::assertGreaterThan($results, $this->number('SELECT COUNT(*) FROM fold_result'));
        $this->call('POST', '/api/jobs/'.$trial['id'].'/cancel');
        self::assertSame('cancelled', $this->call('GET', '/api/jobs/'.$trial['id'])['state']);
        self::assertSame($results, $this->number('SELECT COUNT(*) FROM fold_result'));
        $this->service(Connection::class)->executeStatement("INSERT INTO fold_result (trial_id, piece_key, figures, chances) SELECT id, 'left', '[]', '' FROM trial WHERE state = 'cancelled' LIMIT 1");
        self::assertStringContainsString('1 results of trials', implode(' ', $this->service(Housekeeping::class)->run()));
    }
}
