<?php

declare(strict_types=1);

namespace App\Tests\Store;

use App\Job\PieceQueue;
use App\Job\PieceTransport;
use App\Job\RunPiece;
use App\Question\OpenCells;
use App\Source\UploadPieces;
use App\Source\Uploads;
use App\Storage\CellStore;
use App\Storage\Kept;
use App\Storage\PostgresStore;
use App\Storage\SqliteStore;
use App\Storage\Store;
use App\Table\DataTable;
use App\Tests\Api\ApiTestCase;
use App\Tests\Api\CountedQueries;
use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Table\FrameCodec;
use Symfony\Component\Cache\Adapter\AdapterInterface;
use Symfony\Component\Cache\Adapter\FilesystemAdapter;
use Symfony\Component\Filesystem\Filesystem;
use Symfony\Component\Messenger\Envelope;

/** What both stores have to do alike: run on SQLite, and by `make test-postgres` and within `make test` on PostgreSQL. */
final class StoreTest extends ApiTestCase
{
    private function connection(): Connection
    {
        return $this->service(Connection::class);
    }

    public function testItIsTheStoreThatWasAskedFor(): void
    {
        $store = $this->service(Store::class);
        $server = 'postgres' === getenv('DOKIMOS_TEST_STORE');
        self::assertInstanceOf($server ? PostgresStore::class : SqliteStore::class, $store);
        self::assertSame($server, $store->isShared());
        self::assertEqualsWithDelta(microtime(true), $store->now(), 5.0);
        self::assertTrue($store->isSound());
        self::assertGreaterThan(100_000, $store->size());
        $store->reclaim();
    }

    public function testTextStandsInTheOrderOfItsBytesAndIsFoundAsItIsWritten(): void
    {
        $this->signIn();
        $names = ['zebra', 'Zebra', 'Äpfel', 'apple', 'Apple', '_x', '10', '9', 'ß', 'b c', 'bc', '日'];
        foreach ($names as $name) {
            $this->call('POST', '/api/studies', ['name' => $name, 'question' => ''], 201);
        }
        $found = $this->connection()->fetchFirstColumn('SELECT name FROM study WHERE id > 3 ORDER BY name');
        $bytes = $names;
        sort($bytes, \SORT_STRING);
        self::assertSame($bytes, array_values(array_intersect($found, $names)));
        self::assertSame('Apple', $this->connection()->fetchOne("SELECT name FROM study WHERE name = 'Apple'"));
        self::assertFalse($this->connection()->fetchOne("SELECT name FROM study WHERE name = 'APPLE'"));
    }

    public function testBytesComeBackAsTheyWereWhateverTheyAre(): void
    {
        $this->signIn();
        $store = $this->service(CellStore::class);
        $table = (int) $this->call('GET', '/api/studies/1')['tableId'];
        $odd = implode('', array_map(chr(...), range(0, 255)))."\0'\\\"\r\n".random_bytes(5000);
        foreach ([$odd, strrev($odd)] as $bytes) {
            // The second time it takes the place of the first.
            $store->write($table, [['position' => 900, 'chunk' => 0, 'frames' => [[$bytes, 7], ['', 0], [$odd, 3]]]]);
            self::assertSame([[$bytes, 7], ['', 0], [$odd, 3]], iterator_to_array($store->frames($table, 900)));
            $store->write($table, [['position' => 901, 'chunk' => 0, 'frames' => [['other', 1], [$odd, 2], [$bytes, 9]]]]);
            self::assertSame([900 => [[$odd, 3]], 901 => [[$bytes, 9]]], $store->some($table, [900, 901], 2));
            // Asked for more than there is, what there is.
            self::assertSame([900 => [['', 0], [$odd, 3]]], $store->some($table, [900], 1, 9));
            self::assertSame(
                [900 => [[$bytes, 7], ['', 0], [$odd, 3]], 901 => [['other', 1], [$odd, 2], [$bytes, 9]]],
                $store->small($table, [901, 900]),
            );
            $store->writeSource($table, 900, $bytes);
        }
        // However many chunks there are, all of them come, in order.
        foreach ([4, 5, 8] as $position => $chunks) {
            foreach (array_reverse(range(0, $chunks - 1)) as $chunk) {
                $store->write($table, [['position' => 910 + $position, 'chunk' => $chunk, 'frames' => [["chunk $chunk", 1]]]]);
            }
            self::assertSame(
                array_map(static fn (int $k): array => ["chunk $k", 1], range(0, $chunks - 1)),
                iterator_to_array($store->frames($table, 910 + $position)),
            );
        }
        try {
            $store->some($table, [900, 999], 0);
            self::fail('There is no column 999.');
        } catch (\OutOfBoundsException) {
        }
        $order = range(70000, 0, -7);
        $store->keepOrder($table, 900, $order);
        self::assertSame($order, $store->order($table, 900));
        self::assertSame(\array_slice($order, 100, 50), $store->order($table, 900, 100, 50));
        $store->forgetOrder($table, 900);
        self::assertNull($store->order($table, 900));
    }

    public function testWhoWalksThroughATableSeesWhatIsReadAtOnceAndNothingBehindTheSeal(): void
    {
        $this->signIn();
        $lines = array_map(static fn (int $i): string => \sprintf('r%d,%d,%s', $i, $i % 977, 'abc'[$i % 3]), range(1, 70_000));
        $upload = $this->upload("key,number,letter\n".implode("\n", $lines)."\n", 'long.csv');
        $long = $this->call('POST', '/api/studies/1/tables', ['uploadId' => $upload, 'name' => 'long'], 202)['subject'];
        // So wide that two frames are fetched at once, and 200 columns at once.
        $wide = 'c'.implode(',c', range(1, 240))."\n";
        foreach (range(1, 8200) as $i) {
            $wide .= implode(',', array_map(static fn (int $k): int => $i * $k % 9, range(1, 240)))."\n";
        }
        $body = ['uploadId' => $this->upload($wide, 'wide.csv'), 'name' => 'wide'];
        $wide = $this->call('POST', '/api/studies/1/tables', $body, 202)['subject'];
        $this->work();
        ['tableId' => $visits, 'target' => $target, 'sealedRows' => $sealed] = $this->call('GET', '/api/studies/1');
        self::assertGreaterThan(0, $sealed);
        $cells = $this->service(OpenCells::class);
        foreach ([$wide => [3, 12], $long => [18, 6], $visits => [1, 2]] as $id => [$frames, $statements]) {
            $table = $this->service(EntityManagerInterface::class)->find(DataTable::class, $id) ?? self::fail('The table is gone.');
            $whole = $cells->table($table);
            $walk = $cells->walk($table);
            $before = CountedQueries::$count;
            // In order, and back to the beginning.
            foreach ([...range(0, $frames - 1), 0] as $frame) {
                $own = range($frame * FrameCodec::ROWS, min($whole->rows, ($frame + 1) * FrameCodec::ROWS) - 1);
                self::assertSame(serialize($whole->take($own)), serialize($walk->at($frame)), "frame $frame of table $id");
            }
            // Two statements for what lies together, and not for each frame.
            self::assertLessThanOrEqual($statements, CountedQueries::$count - $before);
            $one = [$whole->names()[1]];
            self::assertSame($one, $cells->walk($table, $one)->at(0)->names());
        }
        self::assertGreaterThanOrEqual($sealed, $cells->walk($table, [$target])->at(0)->column($target)->missing());
    }

    public function testAPieceIsClaimedOnceAndAgainWhenItsLeaseRanOut(): void
    {
        $this->signIn();
        $queue = $this->service(PieceQueue::class);
        $this->call('POST', '/api/studies/1/tables', ['uploadId' => $this->upload("a,b\n1,2\n", 'a.csv'), 'name' => 'a'], 202);
        $piece = $queue->claim('quick', 'one');
        self::assertNotNull($piece);
        self::assertNotSame($piece, $queue->claim('quick', 'two'));
        self::assertFalse($queue->isCancelled($piece));
        $queue->renew($piece, 0.5);
        $this->connection()->executeStatement('UPDATE job_piece SET lease_until = ? WHERE id = ?', [
            $this->service(Store::class)->now() - 1, $piece,
        ]);
        self::assertSame($piece, $queue->claim('quick', 'three'));
        $queue->release('three', false);
        self::assertSame($piece, $queue->claim('quick', 'four'));
        $job = $this->connection()->fetchOne('SELECT job_id FROM job_piece WHERE id = ?', [$piece]);
        $this->call('POST', '/api/jobs/'.(is_numeric($job) ? (int) $job : 0).'/cancel', null);
        self::assertTrue($queue->isCancelled($piece));
    }

    /** One step of a piece may take longer than a lease: its worker keeps it while it lives, unless it hangs or is not wanted any more. */
    public function testAPieceOfWhichNothingIsHeardIsKeptByItsWorker(): void
    {
        $this->signIn();
        $queue = $this->service(PieceQueue::class);
        $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
        $job = $this->call('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => 'tree'], 202)['id'];
        $piece = $queue->claim('long', PieceTransport::worker((int) getmypid())) ?? self::fail('Nothing is waiting.');
        $left = fn (): float => (float) $this->connection()->fetchOne('SELECT lease_until FROM job_piece WHERE id = ?', [$piece])
            - $this->service(Store::class)->now();
        $short = fn (): int|string => $this->connection()->executeStatement(
            'UPDATE job_piece SET lease_until = ? WHERE id = ?',
            [$this->service(Store::class)->now() + 1, $piece],
        );
        $short();
        $queue->beat($piece, 'another:1');
        self::assertLessThan(2.0, $left(), 'of another worker it is none of its business');
        (new PieceTransport($queue, 'long'))->keepalive(new Envelope(new RunPiece($piece)), 5);
        self::assertGreaterThan(15.0, $left());
        self::assertNotSame($piece, $queue->claim('long', 'another:1'), 'nobody else takes it');
        $short();
        $this->connection()->beginTransaction();
        $queue->beat($piece, PieceTransport::worker((int) getmypid()));
        self::assertLessThan(2.0, $left(), 'not within what the work itself is writing');
        $this->connection()->commit();
        $queue->beat($piece, PieceTransport::worker((int) getmypid()));
        self::assertGreaterThan(15.0, $left());
        $heard = new \ReflectionProperty($queue, 'heard');
        $heard->setValue($queue, [$piece => $this->service(Store::class)->now() - PieceQueue::SILENT - 1]);
        $short();
        $queue->beat($piece, PieceTransport::worker((int) getmypid()));
        self::assertLessThan(2.0, $left(), 'what hangs is let go');
        $heard->setValue($queue, []);
        $this->call('POST', "/api/jobs/$job/cancel", [], 200);
        $short();
        $queue->beat($piece, PieceTransport::worker((int) getmypid()));
        self::assertLessThan(2.0, $left(), 'and what was cancelled');
    }

    public function testWhatAnotherMachineReceivedIsBroughtHere(): void
    {
        $this->signIn();
        $bytes = "a,b\n".str_repeat("1,2\n", 5000);
        $id = $this->upload($bytes, 'a.csv');
        $path = $this->service(Uploads::class)->path($id);
        self::assertSame($bytes, file_get_contents($path));
        unlink($path);
        $shared = $this->service(Store::class)->isShared();
        $this->service(UploadPieces::class)->bring($id, $path);
        self::assertSame($shared, is_file($path));
        self::assertSame($shared ? $bytes : false, @file_get_contents($path));
    }

    public function testWhatAWorkerWorkedOutIsSeenByEveryMachineThatSharesTheStore(): void
    {
        $kept = static::getContainer()->get('cache.app');
        \assert($kept instanceof AdapterInterface);
        $key = 'a-picture-'.bin2hex(random_bytes(4));
        $bytes = implode('', array_map(chr(...), range(0, 255))).random_bytes(100_000);
        $kept->save($kept->getItem($key)->set(['bytes' => $bytes])->expiresAfter(60));
        self::assertSame(['bytes' => $bytes], $kept->getItem($key)->get());
        // A machine that has nothing on its disk.
        $store = $this->service(Store::class);
        $there = Kept::at(new FilesystemAdapter('', 0, sys_get_temp_dir().'/'.$key), $store, $this->connection());
        self::assertSame($store->isShared() ? ['bytes' => $bytes] : null, $there->getItem($key)->get());
        // Another value takes its place at once where it was worked out, and nothing is kept of one that is deleted.
        $kept->save($kept->getItem($key)->set('another')->expiresAfter(60));
        self::assertSame('another', $kept->getItem($key)->get());
        self::assertSame('another', $kept->getItem($key)->get(), 'from the copy beside it too');
        $kept->deleteItem($key);
        self::assertFalse($kept->hasItem($key));
        $kept->save($kept->getItem($key)->set('a third'));
        $kept->getItem($key);
        $kept->clear();
        self::assertFalse($kept->hasItem($key));
        self::assertNull($kept->getItem($key)->get());
        $new = Kept::at(new FilesystemAdapter('', 0, sys_get_temp_dir()."/$key/new"), $store, $this->connection());
        self::assertFalse($new->hasItem($key), 'cleared where all of them look');
        (new Filesystem())->remove(sys_get_temp_dir().'/'.$key);
    }
}
