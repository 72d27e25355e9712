<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Validate;

use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Validate\Resampled;
use Dokimos\Core\Validate\SplitPlan;
use Dokimos\Core\Validate\Trying;
use PHPUnit\Framework\TestCase;

final class SplitPlanTest extends TestCase
{
    /** @return list<float> */
    private static function event(int $n = 997): array
    {
        mt_srand(4);

        return array_map(static fn (int $i) => 0 === $i % 50 ? \NAN : (float) (mt_rand(0, 99) < 17), range(1, $n));
    }

    public function testSealedRowsAndFoldsCoverEveryKnownRowOnce(): void
    {
        $event = self::event();
        $plan = new SplitPlan();
        $sealed = $plan->sealed($event);
        $open = array_values(array_diff(array_keys(array_filter($event, static fn (float $e) => !is_nan($e))), $sealed));
        foreach ([0, 1] as $repeat) {
            $parts = $plan->parts($event, $open, $repeat);
            $all = array_merge(...$parts);
            sort($all);
            self::assertSame($open, $all);
            foreach ($parts as $part) {
                self::assertEqualsWithDelta(
                    0.17,
                    array_sum(array_map(static fn (int $r) => $event[$r], $part)) / \count($part),
                    0.05,
                    'stratified',
                );
            }
        }
        self::assertEqualsWithDelta(0.2 * (\count($open) + \count($sealed)), \count($sealed), 2);
        self::assertSame([], array_intersect($sealed, $open));
        self::assertNotSame($plan->parts($event, $open, 0), $plan->parts($event, $open, 1));
    }

    public function testTheSameSeedGivesTheSameRows(): void
    {
        self::assertSame(
            (new SplitPlan())->sealed(self::event()),
            SplitPlan::fromArray((new SplitPlan())->toArray())->sealed(self::event()),
        );
        self::assertNotSame((new SplitPlan())->sealed(self::event()), (new SplitPlan(seed: 7))->sealed(self::event()));
    }

    public function testLargeTablesHaveOneValidationPart(): void
    {
        self::assertSame(10, SplitPlan::standard(49999)->fits());
        $plan = SplitPlan::standard(50000);
        self::assertSame(1, $plan->fits());
        $event = self::event();
        $parts = $plan->parts($event, array_keys(array_filter($event, static fn (float $e) => !is_nan($e))), 0);
        self::assertCount(1, $parts);
        self::assertEqualsWithDelta(244, \count($parts[0]), 2);
    }

    public function testGroupsStayTogether(): void
    {
        $event = self::event();
        $labels = array_map(static fn (int $i): ?string => 0 === $i % 40 ? null : 'h'.($i * 7919 % 300), array_keys($event));
        foreach ([
            new SplitPlan(way: SplitPlan::GROUP, column: 'household'),
            new SplitPlan(folds: 1, repeats: 1, way: SplitPlan::GROUP, column: 'household'),
        ] as $plan) {
            $sealed = $plan->sealed($event, $labels);
            $open = array_values(array_diff(array_keys(array_filter($event, static fn (float $e) => !is_nan($e))), $sealed));
            self::assertEqualsWithDelta(0.2, \count($sealed) / (\count($open) + \count($sealed)), 0.02);
            $of = static fn (array $rows): array => array_filter(array_unique(array_map(
                static fn (int $r): ?string => $labels[$r],
                $rows,
            )));
            self::assertSame([], array_intersect($of($sealed), $of($open)));
            $parts = $plan->parts($event, $open, 0, $labels);
            self::assertCount($plan->folds, $parts);
            foreach ($parts as $part) {
                self::assertSame([], array_intersect($of($part), $of($plan->training($event, $open, $part, $labels))));
                self::assertEqualsWithDelta(1 === $plan->folds ? 0.25 : 0.2, \count($part) / \count($open), 0.02);
            }
            self::assertNotSame($parts, $plan->parts($event, $open, 1, $labels));
        }
    }

    public function testThePastLearnsAndWhatCameLaterJudges(): void
    {
        $event = self::event();
        $labels = array_map(static fn (int $i): ?int => 0 === $i % 40 ? null : 86400 * ($i * 7919 % 200), array_keys($event));
        foreach ([4, 1] as $folds) {
            $plan = new SplitPlan(folds: $folds, repeats: 1, way: SplitPlan::TIME, column: 'day');
            $sealed = $plan->sealed($event, $labels);
            $open = array_values(array_diff(array_keys(array_filter($event, static fn (float $e) => !is_nan($e))), $sealed));
            $times = static fn (array $rows): array => array_filter(array_map(static fn (int $r): ?int => $labels[$r], $rows), is_int(...));
            self::assertGreaterThan(max([0, ...$times($open)]), min([\PHP_INT_MAX, ...$times($sealed)]), 'the latest are sealed');
            $before = 0;
            foreach ($plan->parts($event, $open, 0, $labels) as $part) {
                $training = $plan->training($event, $open, $part, $labels);
                self::assertNotSame([], $part);
                self::assertLessThan(min([\PHP_INT_MAX, ...$times($part)]), max([0, ...$times($training)]));
                self::assertGreaterThan($before, \count($training), 'each learns from more');
                $before = \count($training);
            }
        }
    }

    public function testAMarkerSaysWhichRowsJudge(): void
    {
        $labels = array_map(static fn (int $i): ?string => [null, 'learn', 'judge', 'keep'][$i % 4], range(0, 99));
        $y = array_map(static fn (int $i): float => (float) $i, range(0, 99));
        $plan = new SplitPlan(folds: 1, repeats: 1, way: SplitPlan::MARKER, column: 'part', validation: 'judge', sealedValue: 'keep');
        self::assertEquals($plan, SplitPlan::fromArray($plan->toArray()));
        $sealed = $plan->sealed($y, $labels);
        self::assertSame(range(3, 99, 4), $sealed);
        $open = array_values(array_diff(range(0, 99), $sealed));
        $part = $plan->parts($y, $open, 0, $labels)[0];
        self::assertSame(range(2, 98, 4), $part);
        self::assertSame(
            array_values(array_filter(range(0, 99), static fn (int $i) => $i % 4 < 2)),
            $plan->training($y, $open, $part, $labels),
        );
    }

    public function testNumbersAreStratifiedByTenths(): void
    {
        $y = array_map(static fn (int $i): float => ($i * 7919 % 1000) / 3, range(0, 999));
        $plan = new SplitPlan();
        $sealed = $plan->sealed($y);
        self::assertCount(200, $sealed);
        foreach ($plan->parts($y, array_values(array_diff(range(0, 999), $sealed)), 0) as $part) {
            self::assertEqualsWithDelta(166.5, array_sum(array_map(static fn (int $r) => $y[$r], $part)) / \count($part), 5.0);
        }
    }

    public function testImpossiblePlansAreRefused(): void
    {
        foreach ([
            ['moon', 'x'],
            [SplitPlan::GROUP, null],
            [SplitPlan::CHANCE, 'x'],
            [SplitPlan::TIME, 'x'],
            [SplitPlan::MARKER, 'x'],
        ] as [$way, $column]) {
            try {
                new SplitPlan(way: $way, column: $column);
                self::fail($way.' was accepted');
            } catch (\InvalidArgumentException $e) {
                self::assertMatchesRegularExpression('/^[A-Z].*\.$/', $e->getMessage());
            }
        }
        foreach ([[0.9, 5, 2], [0.2, 0, 2], [0.2, 5, 99]] as [$share, $folds, $repeats]) {
            try {
                new SplitPlan($share, $folds, $repeats);
                self::fail('it was accepted');
            } catch (\InvalidArgumentException $e) {
                self::assertNotSame('', $e->getMessage());
            }
        }
    }

    public function testOverlappingFoldsWidenTheInterval(): void
    {
        $figures = [0.80, 0.82, 0.79, 0.83, 0.81, 0.80, 0.84, 0.78, 0.82, 0.81];
        $interval = Resampled::interval($figures, 5);
        self::assertEqualsWithDelta(0.81, (float) $interval->value, 1e-12);
        // Variance 0.0003333..., times (1/10 + 1/4), Student's t with 9 degrees of freedom.
        self::assertEqualsWithDelta(2.2621571628 * sqrt(0.003 / 9 * 0.35), (float) $interval->high - 0.81, 1e-9);
        self::assertEqualsWithDelta(1.0, (float) Resampled::compare($figures, $figures, 5)['p'], 1e-12);
        self::assertLessThan(
            0.05,
            (float) Resampled::compare($figures, array_map(static fn (float $f) => $f - 0.2 - $f / 50, $figures), 5)['p'],
        );
    }

    public function testAFoldDoesNotLookAtItsValidationOutcomes(): void
    {
        mt_srand(8);
        $x = $event = [];
        for ($i = 0; $i < 200; ++$i) {
            $x[] = mt_rand(0, 100) / 10;
            $event[] = (float) (mt_rand(0, 10) < $x[$i]);
        }
        $table = Table::of(['x' => new NumberColumn($x)]);
        $validation = range(0, 39);
        $turned = $event;
        foreach ($validation as $row) {
            $turned[$row] = 1.0 - $turned[$row];
        }
        $one = (new Trying($table, ['x'], $event, new Preparation([]), Learners::make('logistic')))->fold($validation);
        $two = (new Trying($table, ['x'], array_values($turned), new Preparation([]), Learners::make('logistic')))->fold($validation);
        self::assertSame($one['answers']->values, $two['answers']->values);
    }

    public function testWhatIsMadeOfAKeyAloneStaysOutOfTheModel(): void
    {
        $key = $x = $event = [];
        for ($i = 0; $i < 120; ++$i) {
            $key[] = (float) $i;
            $x[] = (float) ($i * 37 % 11);
            $event[] = $i * 37 % 11 + $i % 3 > 6 ? 1.0 : 0.0;
        }
        $steps = [
            ['step' => 'rename', 'column' => 'key', 'to' => 'number'],
            ['step' => 'formula', 'name' => 'both', 'formula' => 'number + x'],
            ['step' => 'formula', 'name' => 'twice', 'formula' => 'number * 2'],
            ['step' => 'formula', 'name' => 'high', 'formula' => 'x > 8'],
        ];
        $table = Table::of(['key' => new NumberColumn($key), 'x' => new NumberColumn($x)]);
        $model = (new Trying($table, ['x'], $event, Preparation::fromArray($steps), Learners::make('logistic')))->whole('y', 'yes')->model;
        self::assertSame(['both', 'high', 'x'], (static function (array $names): array {
            sort($names);

            return $names;
        })($model->columns()));
    }
}
