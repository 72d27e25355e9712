<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Boosting\BoostedModel;
use Dokimos\Core\Learn\Boosting\GradientBoosting;
use Dokimos\Core\Learn\Boosting\Loss;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Forest\ForestModel;
use Dokimos\Core\Learn\Forest\RandomForest;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** What the settings of forests and boosting promise. */
final class EnsemblesTest extends TestCase
{
    private const TRAINED = 600;
    private const ROWS = 1600;

    /** Rows whose outcome bends with x, depends on a category, and does not on noise; a third of z is missing where it matters. */
    private static function task(?int $classes, int $seed = 3): Task
    {
        $random = new Randomizer(new Mt19937($seed));
        $x = $z = $noise = $g = $y = [];
        for ($i = 0; $i < self::ROWS; ++$i) {
            $x[] = $random->getInt(-300, 300) / 100;
            $noise[] = $random->getInt(0, 1000) / 10;
            $g[] = ['red', 'green', 'blue', 'gray'][$random->getInt(0, 3)];
            $gone = 0 === $random->getInt(0, 2);
            $z[] = $gone ? \NAN : $random->getInt(0, 100) / 10;
            $pull = 2 * sin($x[$i]) + ('blue' === $g[$i] ? 1.5 : 0.0) + ($gone ? 1.0 : 0.0) + $random->getInt(-100, 100) / 80;
            $y[] = match ($classes) {
                null => 10 + $pull,
                2 => (float) ($pull > 0.7),
                default => $pull < -0.5 ? 0.0 : ($pull < 1.5 ? 1.0 : 2.0),
            };
        }

        return new Task(
            Table::of([
                'x' => new NumberColumn($x),
                'z' => new NumberColumn($z),
                'noise' => new NumberColumn($noise),
                'g' => CodedColumn::fromCells($g),
            ]),
            ['x', 'z', 'noise', 'g'],
            $y,
            range(0, self::TRAINED - 1),
            null,
            null === $classes ? null : \array_slice(['a', 'b', 'c'], 0, $classes),
        );
    }

    /** @param array<string, mixed> $settings */
    private static function boosted(Task $task, array $settings): BoostedModel
    {
        return (new GradientBoosting($settings + ['patience' => 0, 'trees' => 40]))->fit($task);
    }

    /** Mean squared error of a number or a chance on rows that nobody learned from. */
    private static function error(BoostedModel|ForestModel $model, Task $task): float
    {
        $fresh = range(self::TRAINED, self::ROWS - 1);
        $sum = 0.0;
        foreach ($model->predict($task->table, $fresh) as $i => $p) {
            $sum += ($p - $task->outcome[$fresh[$i]]) ** 2;
        }

        return $sum / \count($fresh);
    }

    /** @return iterable<string, array{Loss, float}> */
    public static function losses(): iterable
    {
        yield 'squared error' => [Loss::Squared, 0.5];
        yield 'log loss' => [Loss::Log, 1.0];
        yield 'Poisson' => [Loss::Poisson, 1.0];
    }

    /** Slope and curvature are those of the loss: by differences. */
    #[DataProvider('losses')]
    public function testSlopesAreThoseOfTheLoss(Loss $loss, float $factor): void
    {
        foreach ([[0.0, -1.3], [1.0, 0.4], [1.0, 3.0], [0.0, 2.2]] as [$y, $f]) {
            $at = static fn (float $f): float => $factor * $loss->mean([$y], [[$f]], null, 0.5);
            $e = 1e-4;
            [$g, $h] = $loss->slopes([$y], [$f], null, 0.5);
            self::assertEqualsWithDelta(-($at($f + $e) - $at($f - $e)) / (2 * $e), $g[0], 1e-6);
            self::assertEqualsWithDelta(($at($f + $e) - 2 * $at($f) + $at($f - $e)) / ($e * $e), $h[0], 1e-5);
            self::assertEqualsWithDelta([3 * $g[0], 3 * $h[0]], array_merge(...$loss->slopes([$y], [$f], [3.0], 0.5)), 1e-12);
        }
    }

    public function testLossesOfExtremeSumsAreFinite(): void
    {
        foreach ([Loss::Log, Loss::Squared, Loss::Poisson, Loss::Quantile] as $loss) {
            self::assertTrue(is_finite($loss->mean([0.0, 1.0], [[800.0, -800.0]], null, 0.3)), $loss->value);
        }
        self::assertTrue(is_finite(Loss::Several->mean([2.0], [[800.0], [0.0], [-800.0]], null, 0.5)));
        self::assertEqualsWithDelta([[1.0], [0.0]], Loss::shares([[900.0], [-900.0]]), 1e-12);
        self::assertEqualsWithDelta([0.0, 1.0], [Loss::Log->answer(-800.0), Loss::Log->answer(800.0)], 1e-12);
    }

    /** @return iterable<string, array{?int}> */
    public static function tasks(): iterable
    {
        yield 'a number' => [null];
        yield 'two classes' => [2];
        yield 'three classes' => [3];
    }

    #[DataProvider('tasks')]
    public function testEachTreeLowersTheLossOfTheTrainingRows(?int $classes): void
    {
        $model = self::boosted(self::task($classes), ['rows' => 1.0, 'columns' => 1.0]);
        self::assertSame([1, 40], [$model->curve[0]['trees'], $model->curve[\count($model->curve) - 1]['trees']]);
        $losses = array_column($model->curve, 'training');
        foreach (\array_slice($losses, 1) as $i => $loss) {
            self::assertLessThanOrEqual($losses[$i] + 1e-12, $loss);
        }
        self::assertSame(40, $model->trees(), 'for each class');
    }

    public function testStoppingKeepsTheRoundsThatHelpedRowsKeptBack(): void
    {
        $task = self::task(2);
        $model = (new GradientBoosting(['trees' => 600, 'rate' => 0.3, 'patience' => 10]))->fit($task);
        self::assertSame(
            1,
            preg_match('/(\d+) of (\d+) rounds were kept: after that, 90 rows kept back saw no gain/', implode(' ', $model->notes()), $m),
        );
        self::assertSame([$model->trees(), $model->trees() + 10], [(int) $m[1], (int) $m[2]], 'and no more than that are tried after it');
        self::assertNotContains(null, array_column($model->curve, 'validation'));
        self::assertLessThan(self::error(self::boosted($task, ['trees' => 600, 'rate' => 0.3]), $task), self::error($model, $task));
    }

    /** @return iterable<string, array{array<string, mixed>}> settings that leave the signal in reach */
    public static function boostings(): iterable
    {
        yield 'as usual' => [[]];
        yield 'half of the rows' => [['rows' => 0.5]];
        yield 'all columns' => [['columns' => 1.0]];
        yield 'half of the columns' => [['columns' => 0.5, 'trees' => 80]];
        yield 'by depth' => [['depth' => 3, 'leaves' => 64]];
        yield 'stumps' => [['leaves' => 2, 'trees' => 120]];
        yield 'held back' => [['ridge' => 50.0, 'trees' => 80]];
        yield 'large leaves' => [['leaf' => 60]];
    }

    /** @param array<string, mixed> $settings */
    #[DataProvider('boostings')]
    public function testBoostingFindsWhatIsThereUnderAnySettings(array $settings): void
    {
        $task = self::task(2);
        $model = self::boosted($task, $settings + ['rate' => 0.1]);
        self::assertLessThan(0.17, self::error($model, $task), 'the share of the event alone leaves about 0.24');
        $shares = array_column($model->importance, 'share', 'column');
        self::assertSame('x', $model->importance[0]['column']);
        self::assertLessThan(0.15, $shares['noise'] ?? 0.0);
        self::assertEqualsWithDelta(1.0, array_sum($shares), 1e-9);
        self::assertSame(
            json_encode($model->toArray()),
            json_encode(self::boosted($task, $settings + ['rate' => 0.1])->toArray()),
            'the same seed, the same bytes',
        );
        if (isset($settings['rows']) || isset($settings['columns']) && $settings['columns'] < 1.0) {
            self::assertNotSame(
                json_encode($model->toArray()),
                json_encode(self::boosted($task, $settings + ['rate' => 0.1, 'seed' => 5])->toArray()),
            );
        }
    }

    public function testSlowerLearningOfAsManyTreesLearnsLess(): void
    {
        $task = self::task(null);
        $left = array_map(
            static fn (float $rate): float => array_column(
                self::boosted($task, ['rate' => $rate, 'trees' => 20])->curve,
                'training',
                'trees',
            )[20],
            [0.01, 0.05, 0.2],
        );
        self::assertTrue($left[0] > $left[1] && $left[1] > $left[2]);
    }

    public function testAQuantileHasItsShareBelow(): void
    {
        $task = self::task(null);
        foreach ([0.1, 0.5, 0.9] as $q) {
            $model = self::boosted(
                $task,
                ['loss' => 'quantile', 'quantile' => $q, 'trees' => 60, 'rate' => 0.1, 'leaf' => 80, 'leaves' => 6],
            );
            $below = 0;
            $fresh = range(self::TRAINED, self::ROWS - 1);
            foreach ($model->predict($task->table, $fresh) as $i => $p) {
                $below += $task->outcome[$fresh[$i]] <= $p ? 1 : 0;
            }
            self::assertEqualsWithDelta($q, $below / \count($fresh), 0.08);
        }
    }

    public function testCountsBelowNoughtAreRefused(): void
    {
        $task = self::task(null);
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage('may not be below 0');
        self::boosted(
            new Task(
                $task->table,
                $task->inputs,
                array_map(static fn (float $y): float => $y - 20, $task->outcome),
                $task->rows,
                null,
                null,
            ),
            ['loss' => 'Poisson'],
        );
    }

    /** @return iterable<string, array{?int, array<string, mixed>}> */
    public static function forests(): iterable
    {
        foreach (self::tasks() as $name => [$classes]) {
            yield $name => [$classes, []];
            yield $name.', cuts drawn' => [$classes, ['drawn' => true]];
            yield $name.', half of the rows' => [$classes, ['sample' => 0.5]];
        }
    }

    /** @param array<string, mixed> $settings */
    #[DataProvider('forests')]
    public function testTheOutOfBagErrorIsThatOfFreshRows(?int $classes, array $settings): void
    {
        $task = self::task($classes);
        $model = (new RandomForest($settings + ['trees' => 80, 'leaf' => 5]))->fit($task);
        $last = $model->curve[\count($model->curve) - 1];
        self::assertSame(80, $last['trees']);
        self::assertGreaterThan($last['out_of_bag'], $model->curve[0]['out_of_bag'], 'one tree alone is worse than many');
        if (3 !== $classes) {
            self::assertEqualsWithDelta(self::error($model, $task), $last['out_of_bag'], 0.15 * self::error($model, $task) + 0.01);
        }
        $shares = array_column($model->importance, 'share', 'column');
        self::assertEqualsWithDelta(1.0, array_sum($shares), 1e-9);
        self::assertGreaterThan($shares['noise'], $shares['x']);
        self::assertSame(
            json_encode($model->toArray()),
            json_encode((new RandomForest($settings + ['trees' => 80, 'leaf' => 5]))->fit($task)->toArray()),
            'the same seed, the same bytes',
        );
        self::assertNotSame(
            $model->predict($task->table, [0, 1, 2]),
            (new RandomForest($settings + ['trees' => 80, 'leaf' => 5, 'seed' => 9]))->fit($task)->predict($task->table, [0, 1, 2]),
        );
    }

    public function testAForestOfOneColumnAtATimeStillGrows(): void
    {
        $task = self::task(2);
        foreach (['the square root', 'a third', 'all'] as $tried) {
            self::assertLessThan(0.2, self::error((new RandomForest(['trees' => 40, 'tried' => $tried]))->fit($task), $task));
        }
        $flat = (new RandomForest(['trees' => 10, 'depth' => 1]))->fit($task);
        self::assertGreaterThan(self::error((new RandomForest(['trees' => 10]))->fit($task), $task), self::error($flat, $task));
    }
}
