<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\Boosting\GradientBoosting;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\HeldOut;
use Dokimos\Core\Learn\UnknownLearner;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Apart;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Trying;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Faults that once gave silent wrong answers. */
final class HonestFitsTest extends TestCase
{
    /** @return array{Table, list<float>} x rises, y falls back in the middle, with long errors */
    private static function bent(int $rows = 800): array
    {
        $random = new Randomizer(new Mt19937(4));
        $x = $noise = $y = [];
        for ($i = 0; $i < $rows; ++$i) {
            $x[] = $v = $random->getInt(0, 1000) / 100;
            $noise[] = (float) $random->getInt(0, 9);
            $y[] = $v + 3 * sin(2 * $v) - 4 * log($random->getInt(1, 1000) / 1001);
        }

        return [Table::of(['x' => new NumberColumn($x), 'noise' => new NumberColumn($noise)]), $y];
    }

    public function testQuantilesOfBoostingKeepToWhatMayOnlyRise(): void
    {
        [$table, $y] = self::bent();
        foreach (['quantile' => [0.2, 0.5, 0.9], 'squared error' => [0.5]] as $loss => $quantiles) {
            foreach ($quantiles as $q) {
                $model = (new GradientBoosting([
                    'loss' => $loss,
                    'quantile' => $q,
                    'rising' => 'x',
                    'trees' => 60,
                    'columns' => 1.0,
                ]))->fit(new Task(
                    $table,
                    ['x', 'noise'],
                    $y,
                    range(0, 799),
                    null,
                    null,
                ));
                $line = $model->predict(Table::of([
                    'x' => new NumberColumn(array_map(static fn (int $i): float => $i / 20, range(0, 200))),
                    'noise' => new NumberColumn(array_fill(0, 201, 4.0)),
                ]));
                $sorted = $line;
                sort($sorted);
                self::assertSame($sorted, $line, "$loss $q");
                self::assertGreaterThan($line[0] + 2, $line[200]);
            }
        }
    }

    public function testQuantilesOfBoostingCountWeights(): void
    {
        [$table, $y] = self::bent(600);
        // Few different values, so that weights and repetitions are cut into the same bins.
        $table = Table::of(['x' => new NumberColumn(array_map(floor(...), $table->number('x')->values))]);
        // Rows of weight three are the same as three rows.
        $rows = $weights = [];
        foreach (array_keys($y) as $row) {
            $weights[] = $w = 0 === $row % 2 ? 3.0 : 1.0;
            array_push($rows, ...array_fill(0, (int) $w, $row));
        }
        $settings = [
            'loss' => 'quantile',
            'quantile' => 0.8,
            'trees' => 25,
            'patience' => 0,
            'columns' => 1.0,
            'leaf' => 1,
            'ridge' => 0.0,
            'leaves' => 4,
        ];
        $weighted = (new GradientBoosting($settings))->fit(new Task($table, ['x'], $y, range(0, 599), $weights, null));
        $repeated = (new GradientBoosting($settings))->fit(new Task(
            $table->take($rows),
            ['x'],
            array_map(static fn (int $r): float => $y[$r], $rows),
            range(0, \count($rows) - 1),
            null,
            null,
        ));
        $plain = (new GradientBoosting($settings))->fit(new Task($table, ['x'], $y, range(0, 599), null, null));
        $off = static fn (array $a, array $b): float => array_sum(array_map(
            static fn (float $p, float $q): float => abs($p - $q),
            $a,
            $b,
        )) / \count($a);
        $one = $weighted->predict($table);
        self::assertEqualsWithDelta(0.0, $off($repeated->predict($table), $one), 1e-9);
        self::assertGreaterThan(0.05, $off($plain->predict($table), $one));
    }

    public function testLimitsAreRefusedWhereTheyMeanNothing(): void
    {
        [$table] = self::bent(300);
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage('no one answer that could only rise');
        (new GradientBoosting(['rising' => 'x']))->fit(new Task(
            $table,
            ['x'],
            array_map(static fn (int $i): float => (float) ($i % 3), range(0, 299)),
            range(0, 299),
            null,
            ['a', 'b', 'c'],
        ));
    }

    public function testImportanceIsThatOfTheTreesThatAreKept(): void
    {
        [$table, $y] = self::bent(500);
        $few = ['trees' => 400, 'patience' => 40, 'rate' => 0.3, 'columns' => 1.0];
        $stopped = (new GradientBoosting($few))->fit($task = new Task($table, ['x', 'noise'], $y, range(0, 499), null, null));
        self::assertLessThan(200, $stopped->trees());
        $again = (new GradientBoosting(['trees' => $stopped->trees()] + $few))->fit($task);
        self::assertSame($again->importance, $stopped->importance, 'what was thrown away counts nothing');
    }

    public function testRowsKeptBackFollowThePlan(): void
    {
        $labels = array_map(static fn (int $i): string => 'H'.intdiv($i, 5), range(0, 199));
        [$table, $y] = self::bent(200);
        foreach ([0.15, 0.3] as $share) {
            $task = new Task($table, ['x'], $y, range(0, 199), null, null, new Apart(false, $labels));
            [$rest, $held] = HeldOut::parts($task, range(0, 199), $share, 'p');
            self::assertSame(
                [],
                array_intersect(
                    array_map(static fn (int $r): string => $labels[$r], $rest),
                    array_map(static fn (int $r): string => $labels[$r], $held),
                ),
                'a group stands on one side',
            );
            self::assertEqualsWithDelta(200 * $share, \count($held), 5);
            $timed = new Task(
                $table,
                ['x'],
                $y,
                range(0, 199),
                null,
                null,
                new Apart(true, array_map(static fn (int $i): ?int => 7 === $i ? null : ($i * 37) % 200, range(0, 199))),
            );
            [$rest, $held] = HeldOut::parts($timed, range(0, 199), $share, 'p');
            $at = static fn (int $r): int => ($r * 37) % 200;
            self::assertGreaterThan(
                max([0, ...array_map($at, array_diff($rest, [7]))]),
                min([1000, ...array_map($at, $held)]),
                'the latest are kept back',
            );
            self::assertNotContains(7, $held);
            self::assertEqualsWithDelta(200 * $share, \count($held), 2);
        }
        $parts = (new Apart(false, $labels))->parts(range(0, 199), 5, new Randomizer(new Mt19937(1)));
        self::assertSame(range(0, 199), (static function (array $all): array {
            sort($all);

            return $all;
        })(array_merge(...$parts)));
        foreach ($parts as $i => $own) {
            foreach ($parts as $j => $other) {
                self::assertTrue($i === $j || [] === array_intersect(
                    array_map(static fn (int $r): string => $labels[$r], $own),
                    array_map(static fn (int $r): string => $labels[$r], $other),
                ));
            }
        }
    }

    /** @return iterable<string, array{string, string}> */
    public static function learners(): iterable
    {
        foreach (Learners::all() as $learner) {
            foreach ($learner->tasks as $task) {
                yield $learner->name.', '.$task => [$learner->name, $task];
            }
        }
    }

    #[DataProvider('learners')]
    public function testValuesNeverSeenAreNamedForEveryModelAndOtherSpellingsAreTheKnownOnes(string $learner, string $kind): void
    {
        $size = $area = $wet = $y = [];
        for ($i = 0; $i < 240; ++$i) {
            $size[] = (float) ($i * 37 % 60);
            $area[] = ['North', 'South', 'West'][$i % 3];
            $wet[] = 0 === $i % 2 ? 'yes' : 'no';
            $y[] = match ($kind) {
                Task::NUMBER => 2.0 * ($i % 3) + 5.0 * ($i % 2) + $size[$i] / 10,
                Task::MORE => (float) ($i % 3),
                default => (float) ((1 === $i % 3 && 0 === $i % 2) !== (0 === $i % 11)),
            };
        }
        $table = Table::of([
            'size' => new NumberColumn($size),
            'area' => CodedColumn::fromCells($area),
            'wet' => CodedColumn::fromCells($wet, Kind::YesNo),
        ]);
        $classes = [Task::NUMBER => null, Task::TWO => ['no', 'yes'], Task::MORE => ['a', 'b', 'c']][$kind];
        $model = (new Trying(
            $table,
            ['size', 'area', 'wet'],
            $y,
            new Preparation([]),
            Learners::make($learner, 'boosting' === $learner || 'forest' === $learner ? ['trees' => 15] : []),
            $classes,
        ))->whole('t', 'yes');
        $model = ScoringModel::fromArray((array) json_decode(
            json_encode($model->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION),
            true,
        ));
        $as = self::records(...);
        $match = array_intersect_key(['size' => 'size', 'area' => 'area', 'wet' => 'wet'], $model->asked);
        $known = $as(['North', 'South', 'West', 'North'], ['yes', 'no', 'no', 'yes']);
        $other = $as(['north', ' South ', 'WEST', 'North'], ['Y', 'false', 'n', '1']);
        self::assertSame($model->answers($model->select($known, $match))->values, $model->answers($model->select($other, $match))->values);
        $new = $as(['North', 'East', 'Isle', 'East'], ['yes', 'no', 'no', 'yes']);
        if (isset($model->asked['area'])) {
            self::assertSame(
                [['column' => 'area', 'values' => ['East', 'Isle'], 'rows' => 3]],
                $model->unseen($model->select($new, $match)),
            );
            self::assertSame(['north' => 'North', ' South ' => 'South', 'WEST' => 'West'], $model->spellings($other, $match)['area']);
        } else {
            self::assertContains($learner, ['baseline', 'rules', 'tree'], 'all others read every column here');
        }
        self::assertSame([], $model->unseen($model->select($known, $match)));
        $line = $model->score($model->select($known, $match))[0];
        self::assertSame(match ($kind) {
            Task::NUMBER => ['chance', 'number', 'why', 'reasons'],
            Task::MORE => ['chance', 'class', 'shares', 'why', 'reasons'],
            default => ['chance', 'why', 'reasons'],
        }, array_keys($line));
        if (Task::MORE === $kind) {
            self::assertEqualsWithDelta(1.0, array_sum($line['shares'] ?? []), 1e-12);
            self::assertSame(max([0.0, ...$line['shares'] ?? []]), $line['chance']);
        }
        if (\in_array($learner, ['tree', 'rules', 'linear'], true)) {
            self::assertNotSame('', $line['reasons']);
        }
    }

    /**
     * @param list<string> $areas
     * @param list<string> $wets
     */
    private static function records(array $areas, array $wets): Table
    {
        return Table::of([
            'size' => new NumberColumn([30.0, 31.0, 5.0, 7.0]),
            'area' => CodedColumn::fromCells($areas),
            'wet' => CodedColumn::fromCells($wets, Kind::YesNo),
        ]);
    }

    public function testAModelOfAnUnknownLearnerIsRefusedInASentence(): void
    {
        $this->expectException(UnknownLearner::class);
        $this->expectExceptionMessage('made by a learner called "oracle", which this version of Dokimos does not know');
        Learners::read(['learner' => 'oracle']);
    }
}
