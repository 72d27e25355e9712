<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Question\OpenCells;
use App\Question\Questions;
use App\Register\ColumnDetail;
use App\Register\ColumnMore;
use App\Register\Outcomes;
use App\Table\DataTable;

/** Large tables are looked over by a worker; whoever asks is told to come again. */
final class LookTest extends ApiTestCase
{
    /** @return string where 14,000 records of 15 columns are asked for */
    private function large(): string
    {
        $this->signIn();
        // Pictures are kept over test runs: a name of its own makes this a table never seen.
        $lines = ['id_'.bin2hex(random_bytes(4)).','.implode(',', array_map(static fn (int $j) => "c$j", range(1, 14)))];
        for ($i = 0; $i < 14000; ++$i) {
            $lines[] = $i.','.implode(
                ',',
                array_map(static fn (int $j) => 7 === $j ? 'same' : (string) (($i * ($j + 3)) % (11 + 7 * $j)), range(1, 14)),
            );
        }
        $job = $this->call(
            'POST',
            '/api/studies/1/tables',
            ['uploadId' => $this->upload(implode("\n", $lines)."\n"), 'name' => 'large'],
            202,
        );
        $this->work();

        return '/api/tables/'.$job['subject'];
    }

    public function testFindingsAndPicturesOfALargeTableWaitForAWorker(): void
    {
        $path = $this->large();
        $look = $this->call('GET', $path.'/findings', null, 202)['job'];
        self::assertSame(['Looking large over', 'waiting'], [$look['title'], $look['state']]);
        self::assertSame('1', $this->client->getResponse()->headers->get('Retry-After'));
        foreach (['missing', 'apart', 'lopsided', 'together', 'repeats'] as $picture) {
            self::assertSame(
                $look['id'],
                $this->call('GET', "$path/pictures/$picture", null, 202)['job']['id'],
                'the same work is not begun twice',
            );
        }
        self::assertSame('density', $this->call('GET', "$path/pictures/two?x=c1&y=c2")['form'], 'two columns are drawn at once');
        $this->work();
        self::assertContains('constant: c7', array_column($this->call('GET', $path.'/findings')['findings'], 'key'));
        self::assertCount(13 * 14 / 2, $this->call('GET', "$path/pictures/together")['pairs']);
        foreach (['missing', 'apart', 'lopsided', 'repeats'] as $picture) {
            $this->call('GET', "$path/pictures/$picture");
        }
        $column = array_column($this->call('GET', $path)['columns'], null, 'name')['c7'];
        $this->call('PATCH', '/api/columns/'.$column['id'], ['use' => 'set aside'], 200, ['If-Match' => (string) $column['version']]);
        self::assertNotSame(
            $look['id'],
            $this->call('GET', $path.'/findings', null, 202)['job']['id'],
            'after a change it is looked over again',
        );
    }

    public function testWhatGoesWithAColumnOfALargeTableWaitsForAWorker(): void
    {
        $path = $this->large();
        $this->call('GET', "$path/goes-with?column=nowhere", null, 422);
        $this->call('GET', "$path/goes-with?column=c7", null, 422);
        $look = $this->call('GET', "$path/goes-with?column=c1", null, 202)['job'];
        self::assertSame(['Asking what goes with c1', 'waiting'], [$look['title'], $look['state']]);
        self::assertSame($look['id'], $this->call('GET', "$path/goes-with?column=c1", null, 202)['job']['id'], 'not begun twice');
        self::assertNotSame($look['id'], $this->call('GET', "$path/goes-with?column=c2", null, 202)['job']['id'], 'another column');
        $this->work();
        $told = $this->call('GET', "$path/goes-with?column=c1");
        self::assertSame('c1', $told['target']);
        self::assertContains('c2', array_column($told['relations'], 'column'));
        $this->call('GET', "$path/goes-with?column=c2");
        $column = array_column($this->call('GET', $path)['columns'], null, 'name')['c3'];
        $this->call('PATCH', '/api/columns/'.$column['id'], ['use' => 'set aside'], 200, ['If-Match' => (string) $column['version']]);
        self::assertNotSame(
            $look['id'],
            $this->call('GET', "$path/goes-with?column=c1", null, 202)['job']['id'],
            'asked again after a change',
        );
    }

    /** Of a table with more records than are looked at, some are, evenly spread, each with its own outcome. */
    public function testAColumnOfALargeTableIsToldOfSomeOfItsRecords(): void
    {
        $this->signIn();
        $study = $this->call('POST', '/api/studies', ['name' => 'Far away', 'question' => 'Who came back?'], 201)['id'];
        $line = static fn (int $i): string => \sprintf('%d,%s', $i * 37 % 500, $i * 37 % 500 < 250 ? 'no' : 'yes');
        $lines = array_map($line, range(0, 12_999));
        $csv = "km,came\n".implode("\n", $lines)."\n";
        $table = $this->call('POST', "/api/studies/$study/tables", ['uploadId' => $this->upload($csv), 'name' => 'far'], 202)['subject'];
        $this->work();
        $version = (string) $this->call('GET', "/api/studies/$study")['version'];
        $asked = ['tableId' => $table, 'column' => 'came', 'event' => 'yes', 'sealedShare' => 0.2];
        $this->call('PUT', "/api/studies/$study/target", $asked, 200, ['If-Match' => $version]);
        $km = $this->entities()->find(DataTable::class, $table)?->column('km') ?? self::fail('There is no km.');
        $services = [$this->service(OpenCells::class), $this->service(Outcomes::class)];

        $whole = (new ColumnDetail(...[...$services, $this->service(Questions::class)]))->of($km, 10);
        self::assertSame([null, 13_000], [$whole->headline, array_sum(array_column($whole->parts, 'count'))]);
        $some = (new ColumnDetail(...[...$services, $this->service(Questions::class), 8192]))->of($km, 10);
        self::assertSame('Counted in 8,192 of 13,000 records, evenly spread', $some->headline);
        self::assertSame(8192, array_sum(array_column($some->parts, 'count')));
        $judged = 0;
        foreach ($some->parts as $part) {
            self::assertSame($part->low >= 249.0 ? $part->judged : 0, $part->events, 'the outcome of each record is its own');
            $judged += $part->judged;
        }
        self::assertGreaterThan(6000, $judged);
        self::assertLessThan(8192, $judged, 'what is sealed is counted, and its outcome is not');

        $more = (new ColumnMore(...[...$services, 8192]))->of($km);
        self::assertSame(8192, $more->looked);
        foreach ($more->values as $value) {
            self::assertSame((float) $value->label >= 250.0 ? $value->judged : 0, $value->events);
        }
        self::assertNull((new ColumnMore(...$services))->of($km)->looked);
    }
}
