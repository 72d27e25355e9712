<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Recheck;

use Dokimos\Core\Calibrate\Calibrated;
use Dokimos\Core\Calibrate\CannotCalibrate;
use Dokimos\Core\Figure\Auc;
use Dokimos\Core\Figure\Rmse;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Math\Distribution\Kolmogorov;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Random;
use Dokimos\Core\Recheck\ColumnDrift;
use Dokimos\Core\Recheck\Effects;
use Dokimos\Core\Recheck\InTheLarge;
use Dokimos\Core\Recheck\Judged;
use Dokimos\Core\Recheck\Remedies;
use Dokimos\Core\Recheck\Slices;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Trying;
use PHPUnit\Framework\TestCase;

/** What a recheck is made of, at its edges. */
final class PartsTest extends TestCase
{
    /** Both series of Kolmogorov's distribution meet where one takes over. */
    public function testTheLimitOfADistanceHasNoStep(): void
    {
        self::assertSame(1.0, Kolmogorov::upper(0.0));
        self::assertEqualsWithDelta(Kolmogorov::upper(1.0 - 1e-12), Kolmogorov::upper(1.0), 1e-10);
        self::assertEqualsWithDelta(0.05, Kolmogorov::upper(1.3580986393225505), 1e-9);
        $last = 1.0;
        foreach (range(1, 60) as $k) {
            $p = Kolmogorov::upper($k / 10);
            self::assertLessThanOrEqual($last, $p);
            $last = $p;
        }
    }

    public function testWhatNeverOrAlwaysCameHasNoIntercept(): void
    {
        foreach ([[0.0, 0.0], [1.0, 1.0]] as $event) {
            $told = InTheLarge::of($event, [0.3, 0.6])->toArray();
            self::assertNull($told['intercept']);
            self::assertIsFloat($told['p']);
        }
        self::assertEqualsWithDelta(0.0, InTheLarge::of([1.0, 0.0], [0.5, 0.5])->intercept, 1e-12);
    }

    public function testColumnsWithoutValuesAndOfOneValueAreTold(): void
    {
        $none = new NumberColumn([\NAN, \NAN]);
        $drift = ColumnDrift::of($none, new NumberColumn([1.0, 2.0]));
        self::assertNull($drift->p);
        self::assertGreaterThan(0.0, $drift->index);
        $same = ColumnDrift::of(new NumberColumn([2.0, 2.0, 2.0]), new NumberColumn([2.0, 2.0]));
        self::assertSame([0.0, 1.0], [$same->distance, $same->p]);
        $one = ColumnDrift::of(new CodedColumn([0, 0], ['a']), new CodedColumn([0], ['a']));
        self::assertNull($one->p);
        $new = ColumnDrift::of(new CodedColumn([0, 0, -1], ['a']), new CodedColumn([1, 1], ['a', 'b']));
        self::assertSame(['b'], $new->unseen);
        self::assertNotNull($new->p);
        // Free text is told by whether it is missing alone.
        $text = ColumnDrift::of(new TextColumn(['x', null]), new TextColumn(['y', 'z']));
        self::assertSame([1, 0], [$text->missingThen, $text->missingNow]);
        self::assertSame([], $text->unseen);
    }

    private static function of(string $task, int $rows, float $off, int $seed): Judged
    {
        $r = Random::stream($seed, 'parts');
        $outcome = $answers = [];
        for ($i = 0; $i < $rows; ++$i) {
            $p = 0.1 + 0.6 * Random::share($r);
            $answers[] = Task::TWO === $task ? $p : 10 * $p;
            $outcome[] = Task::TWO === $task
                ? (Random::share($r) < min(0.95, $p + $off) ? 1.0 : 0.0)
                : 10 * $p + 10 * $off + Random::share($r) - 0.5;
        }

        return new Judged($task, $outcome, new Answers($answers));
    }

    public function testSettingAnswersRightMendsWhatRanLow(): void
    {
        foreach ([[Task::TWO, new Auc()], [Task::NUMBER, new Rmse()]] as [$task, $figure]) {
            [$learned, $measured] = [self::of($task, 900, 0.12, 1), self::of($task, 600, 0.12, 2)];
            $set = Remedies::calibration($learned);
            $lines = Remedies::of($learned, $measured, $set, $measured, null, $figure);
            self::assertSame($set->toArray(), Calibrated::read($set->toArray())->toArray(), 'it is read back as it was');
            self::assertSame(['leave', 'calibrate'], array_column($lines, 'key'));
            $off = array_map(static fn (array $l): float => abs((float) ($l['promise']['now']['value'] ?? 9.0)), $lines);
            self::assertGreaterThan(3 * $off[1], $off[0]);
        }
        $one = new Judged(Task::NUMBER, [3.0, \NAN, 5.0], new Answers([1.0, 2.0, \NAN]));
        try {
            Remedies::calibration($one);
            self::fail('of one record nothing is learned');
        } catch (CannotCalibrate $e) {
            self::assertStringContainsString('two records', $e->getMessage());
        }
        self::assertSame([0, 0, 72], [Remedies::cut(0), Remedies::cut(119), Remedies::cut(120)]);
    }

    public function testSlicesHoldWhatIsKnownAlone(): void
    {
        $now = new Judged(Task::TWO, [1.0, 0.0, \NAN, 1.0], new Answers([0.4, 0.2, 0.5, \NAN]));
        $told = Slices::of($now, ['b', 'a', 'a', 'b'], new Auc());
        self::assertSame([['a', 1], ['b', 1]], array_map(static fn (array $s): array => [$s['label'], $s['rows']], $told));
        self::assertSame([0.2, 0.4], array_column($told, 'promised'));
        self::assertSame([], Slices::of($now, [null, null, null, null], new Auc()));
        $bins = Slices::calibration(self::of(Task::TWO, 601, 0.0, 4));
        self::assertSame(601, array_sum(array_column($bins, 'rows')));
        $chances = array_column($bins, 'chance');
        $sorted = $chances;
        sort($sorted);
        self::assertSame($sorted, $chances);
    }

    public function testWhatMovedAndMattersStandsFirst(): void
    {
        $r = Random::stream(6, 'effects');
        $make = static function (int $rows, float $more) use ($r): Table {
            $a = $b = [];
            for ($i = 0; $i < $rows; ++$i) {
                $a[] = Random::share($r) + $more;
                $b[] = Random::share($r) + 3 * $more;
            }

            return Table::of(['matters' => new NumberColumn($a), 'idle' => new NumberColumn($b)], $rows);
        };
        $then = $make(800, 0.0);
        $y = array_map(static fn (float $v): float => Random::share($r) < 0.1 + 0.7 * $v ? 1.0 : 0.0, $then->number('matters')->values);
        $model = (new Trying($then, ['matters', 'idle'], $y, Preparation::fromArray([]), Learners::make('logistic')))->whole('y', 'yes');
        $lines = Effects::of($model, $then, $make(500, 0.3));
        self::assertSame(['matters', 'idle'], array_column($lines, 'column'));
        self::assertGreaterThan(0.1, $lines[0]['points']);
        self::assertLessThan(0.05, abs($lines[1]['points']));
        foreach ($lines as $line) {
            self::assertLessThan(1e-6, $line['holm']);
        }
        $same = Effects::of($model, $then, $then);
        self::assertSame($same, Effects::of($model, $then, $then), 'the same seed draws the same values');
        self::assertLessThan(0.02, abs($same[0]['points']), 'what did not move moves nothing');
    }
}
