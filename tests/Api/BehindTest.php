<?php

declare(strict_types=1);

namespace App\Tests\Api;

use PHPUnit\Framework\Attributes\DataProvider;

/** The records behind a figure, as rows and as a picture, and the cut-off found on folds that others judge. */
final class BehindTest extends ApiTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
    }

    private function tried(int $study, string $learner): int
    {
        $variant = $this->call('GET', "/api/studies/$study/preparation")['variants'][0]['id'];
        $trial = $this->call('POST', "/api/studies/$study/trials", ['variantId' => $variant, 'learner' => $learner], 202)['subject'];
        $this->work();
        \assert(\is_int($trial));

        return $trial;
    }

    public function testTheFourCellsHoldEveryAnsweredRowOnceAsRowsAndAsAPicture(): void
    {
        $trial = $this->tried(1, 'tree');
        $event = array_column($this->call('GET', "/api/trials/$trial/judgment")['sections'], null, 'kind')['event'];
        $at = $event['cutoffs'][20];
        $all = 0;
        foreach (['tp', 'fp', 'fn', 'tn'] as $cell) {
            $rows = $this->call('GET', "/api/trials/$trial/records?cell=$cell&cutoff=".$at['cutoff']);
            self::assertEquals($at[$cell], $rows['total'], $cell);
            $picture = $this->call('GET', "/api/trials/$trial/picture?cell=$cell&cutoff=".$at['cutoff'].'&x=days_ahead&y=job_type');
            self::assertSame($rows['total'], $picture['total']);
            self::assertSame([$event['rows'] - $event['unanswered'], ['days_ahead', 'job_type'], ['number', 'category']], [
                $picture['total'] + $picture['rest'] - $event['unanswered'],
                [$picture['x']['name'], $picture['y']['name']],
                [$picture['x']['kind'], $picture['y']['kind']],
            ]);
            // A dot lies where its record's cells say.
            $column = array_search('days_ahead', $rows['names'], true);
            $by = array_column($rows['records'], null, 'number');
            $seen = 0;
            foreach ($picture['picked'] as [$x, $y, $number]) {
                if (isset($by[$number])) {
                    self::assertEquals((float) $by[$number]['cells'][$column], $x);
                    self::assertSame(
                        $by[$number]['cells'][array_search('job_type', $rows['names'], true)],
                        $picture['y']['labels'][(int) $y],
                    );
                    ++$seen;
                }
            }
            self::assertGreaterThan(0, $seen);
            $all += $rows['total'];
        }
        self::assertSame($event['rows'] - $event['unanswered'], $all);
    }

    public function testBandsOfErrorsHoldEveryRowOnce(): void
    {
        $trial = $this->tried(3, 'linear');
        $worst = $this->call('GET', "/api/trials/$trial/worst?limit=200");
        self::assertCount(5, $worst['bands']);
        self::assertSame([null, null], [$worst['bands'][0]['low'], $worst['bands'][4]['high']]);
        self::assertSame($worst['total'], array_sum(array_column($worst['bands'], 'rows')));
        foreach ($worst['bands'] as $k => $band) {
            self::assertSame($band['low'], $worst['bands'][$k - 1]['high'] ?? null, 'no gap between bands');
            $query = http_build_query(array_filter(
                ['low' => $band['low'], 'high' => $band['high']],
                static fn (mixed $v): bool => null !== $v,
            ));
            $own = $this->call('GET', "/api/trials/$trial/worst?limit=200&$query");
            self::assertSame($band['rows'], $own['total']);
            foreach ($own['records'] as $record) {
                self::assertTrue($record['off'] >= ($band['low'] ?? -\INF) && $record['off'] < ($band['high'] ?? \INF));
            }
            self::assertSame($band['rows'], $this->call('GET', "/api/trials/$trial/picture?$query")['total']);
        }
        // Without a wish the picture is on what the trial leans on most.
        $leaning = array_column(
            $this->call('GET', "/api/trials/$trial/judgment")['sections'],
            null,
            'kind',
        )['leaning']['columns'][0]['column'];
        self::assertSame($leaning, $this->call('GET', "/api/trials/$trial/picture")['x']['name']);
    }

    /** @return iterable<string, array{int, string, string}> */
    public static function refused(): iterable
    {
        yield 'no such cell' => [1, 'picture?cell=xx', 'cell'];
        yield 'a band of an event' => [1, 'picture?low=1', 'low'];
        yield 'classes of an event' => [1, 'picture?came=yes', 'came'];
        yield 'no such column' => [1, 'picture?x=nothing_like_it', 'x'];
        yield 'a text' => [1, 'picture?y=booking_note', 'y'];
        yield 'a cell of a number' => [3, 'picture?cell=fn', 'cell'];
        yield 'a class of a number' => [3, 'worst?came=leak', 'came'];
        yield 'a figure that knows no cut-off' => [1, 'cutoff?by=auc', 'by'];
        yield 'a cost below 0' => [1, 'cutoff?by=costs&miss=-1', 'miss'];
        yield 'costs of nothing' => [1, 'cutoff?by=costs&miss=0&vain=0', 'miss'];
    }

    #[DataProvider('refused')]
    public function testWhatCannotBeShownIsSaid(int $study, string $path, string $field): void
    {
        $trial = $this->tried($study, 3 === $study ? 'linear' : 'tree');
        self::assertSame($field, $this->call('GET', "/api/trials/$trial/$path", null, 422)['field']);
    }

    public function testACutOffIsFoundOnSomeFoldsAndJudgedOnOthers(): void
    {
        $trial = $this->tried(1, 'logistic');
        foreach (['f1', 'balanced_accuracy', 'kappa', 'mcc', 'accuracy'] as $by) {
            $found = $this->call('GET', "/api/trials/$trial/cutoff?by=$by");
            self::assertTrue($found['from'] <= $found['to'] && $found['cutoff'] > 0 && $found['cutoff'] <= 1, $by);
            self::assertLessThanOrEqual($found['seen'] + 1e-9, $found['expected']['value'], $by);
            self::assertTrue($found['expected']['low'] < $found['expected']['value'] && $found['expected']['value'] < $found['expected']['high']);
        }
        // The dearer a miss, the lower it calls.
        $dear = $this->call('GET', "/api/trials/$trial/cutoff?by=costs&miss=20&vain=1");
        $cheap = $this->call('GET', "/api/trials/$trial/cutoff?by=costs&miss=2&vain=1");
        self::assertLessThan($cheap['cutoff'], $dear['cutoff']);
        // What it says of the cut-off is what the matrix at it says.
        $cost = 0.0;
        foreach (['fn' => 20, 'fp' => 1] as $cell => $price) {
            $cost += $price * $this->call('GET', "/api/trials/$trial/records?cell=$cell&limit=1&cutoff=".$dear['cutoff'])['total'];
        }
        $rows = array_sum(array_map(
            fn (string $cell): int => $this->call('GET', "/api/trials/$trial/records?cell=$cell&limit=1&cutoff=0.5")['total'],
            ['tp', 'fp', 'fn', 'tn'],
        ));
        self::assertEqualsWithDelta(100 * $cost / $rows, $dear['seen'], 1e-9);
        $this->call('GET', '/api/trials/'.$this->tried(3, 'linear').'/cutoff', null, 409);
    }
}
