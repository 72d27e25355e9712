<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Additive\AdditiveBoosting;
use Dokimos\Core\Learn\Additive\AdditiveModel;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** The additive model: curves that add up, that find what was planted, and that are held where they are to be. */
final class AdditiveTest extends TestCase
{
    /** A number that follows a bend in x, a step in g, and what u and v do together; noise does nothing. */
    private static function task(string $kind, int $rows = 2500, int $seed = 5): Task
    {
        $random = new Randomizer(new Mt19937($seed));
        $x = $u = $v = $noise = $g = $y = [];
        for ($i = 0; $i < $rows; ++$i) {
            $x[] = $random->getInt(-300, 300) / 100;
            $u[] = $random->getInt(-100, 100) / 100;
            $v[] = $random->getInt(-100, 100) / 100;
            $noise[] = $random->getInt(-100, 100) / 100;
            $g[] = ['a', 'b', 'c', null][$random->getInt(0, 3)];
            $pull = 1.5 * tanh(2 * $x[$i]) + ('b' === $g[$i] ? 1.0 : 0.0) + ($u[$i] * $v[$i] > 0 ? 0.8 : -0.8);
            $luck = $random->getInt(1, 9999) / 10000;
            $y[] = match ($kind) {
                Task::NUMBER => 20 + 5 * $pull + 4 * ($luck - 0.5),
                Task::TWO => (float) ($luck < 1 / (1 + exp(-$pull))),
                default => (float) ($pull + 3 * ($luck - 0.5) < -0.5 ? 0 : ($pull + 3 * ($luck - 0.5) < 1.2 ? 1 : 2)),
            };
        }
        $classes = [Task::NUMBER => null, Task::TWO => ['no', 'yes'], Task::MORE => ['a', 'b', 'c']][$kind];

        return new Task(Table::of([
            'x' => new NumberColumn($x), 'u' => new NumberColumn($u), 'v' => new NumberColumn($v), 'noise' => new NumberColumn($noise),
            'g' => CodedColumn::fromCells($g),
        ]), ['x', 'u', 'v', 'noise', 'g'], $y, range(0, $rows - 1), null, $classes);
    }

    /** @param array<string, mixed> $settings */
    private static function fitted(Task $task, array $settings = []): AdditiveModel
    {
        return (new AdditiveBoosting($settings + ['bags' => 4]))->fit($task);
    }

    public function testTermsAddUpToTheAnswer(): void
    {
        foreach ([Task::NUMBER, Task::TWO] as $kind) {
            $task = self::task($kind, 1200);
            $model = self::fitted($task);
            $sum = $model->terms(null);
            self::assertNotNull($sum);
            $all = array_fill(0, 1200, $sum->start);
            foreach (array_keys($sum->columns) as $term) {
                foreach (($sum->values)($task->table, $term) as $row => $v) {
                    $all[$row] += $v;
                }
            }
            foreach ($model->predict($task->table) as $row => $p) {
                self::assertEqualsWithDelta($p, $sum->scale->answer($all[$row]), 1e-9 * (1 + abs($p)));
            }
        }
        self::assertNull(self::fitted(self::task(Task::MORE, 600))->terms(2), 'of several classes no sum stands behind a chance');
    }

    public function testWhatWasPlantedIsFoundAndNoiseLeftOut(): void
    {
        foreach ([Task::NUMBER, Task::TWO] as $kind) {
            $model = self::fitted(self::task($kind, 4000));
            $curves = array_column($model->curves(), null, 'column');
            self::assertSame('x', $model->curves()[0]->column, 'the bend carries most');
            self::assertLessThan(0.1 * $curves['x']->carries, $curves['noise']->carries ?? 0.0);
            $pairs = $model->pairs();
            self::assertSame(['u', 'v'], [$pairs[0]->first, $pairs[0]->second]);
            self::assertLessThan(0.4 * $pairs[0]->carries, $pairs[1]->carries ?? 0.0, 'no other pair comes near');
            self::assertMatchesRegularExpression('/^rises from -?[\d.]+ to [\d.]+: /', $curves['x']->says);
            self::assertStringStartsWith('b against ', $curves['g']->says);
            self::assertNotNull($curves['g']->missing);
        }
    }

    /** What a pair adds is beyond its curves: its rows and columns add nothing on average. */
    public function testPairsArePure(): void
    {
        $model = self::fitted(self::task(Task::TWO));
        foreach ($model->pairs() as $pair) {
            foreach ([[$pair->adds, $pair->counts], [self::turned($pair->adds), self::turned($pair->counts)]] as [$adds, $rows]) {
                foreach ($adds as $i => $own) {
                    $sum = array_sum(array_map(static fn (float $a, float $n): float => $a * $n, $own, $rows[$i]));
                    self::assertEqualsWithDelta(0.0, $sum / max(1.0, array_sum($rows[$i])), 1e-3);
                }
            }
        }
        foreach ($model->curves() as $curve) {
            $points = null === $curve->missing ? $curve->points : [...$curve->points, $curve->missing];
            $sum = 0.0;
            foreach ($points as $p) {
                $sum += $p->adds * $p->rows;
                self::assertTrue($p->low <= $p->adds && $p->adds <= $p->high);
            }
            self::assertEqualsWithDelta(0.0, $sum / 2500, 1e-9, $curve->column.' adds nothing on average');
        }
    }

    /**
     * @param list<list<float>> $table
     *
     * @return list<list<float>>
     */
    private static function turned(array $table): array
    {
        return array_map(static fn (int $j): array => array_column($table, $j), array_keys($table[0]));
    }

    public function testCurvesAreHeldRisingOrFalling(): void
    {
        foreach ([['rising' => 'noise, x'], ['falling' => 'noise']] as $held) {
            $model = self::fitted(self::task(Task::TWO, 800), $held + ['pairs' => 0, 'gain' => 0.0, 'leaf' => 5]);
            $names = array_map(trim(...), explode(',', (string) ($held['rising'] ?? $held['falling'])));
            foreach ($model->curves() as $curve) {
                if (\in_array($curve->column, $names, true)) {
                    $sorted = $adds = array_map(static fn ($p): float => $p->adds, $curve->points);
                    isset($held['rising']) ? sort($sorted) : rsort($sorted);
                    foreach ($sorted as $i => $v) {
                        self::assertEqualsWithDelta($v, $adds[$i], 1e-12, $curve->column);
                    }
                }
            }
        }
    }

    /**
     * The curve of a number lies near the one that made it. Its band is called what it is, a spread over bags: docs/methods/additive.md.
     */
    public function testAKnownCurveIsFollowed(): void
    {
        $model = self::fitted(self::task(Task::NUMBER, 4000), ['bags' => 8]);
        $curve = array_column($model->curves(), null, 'column')['x'];
        $off = 0.0;
        foreach ($curve->points as $p) {
            $middle = ((float) $p->from + (float) $p->to) / 2;
            $truth = 7.5 * tanh(2 * $middle);
            $off = max($off, abs($p->adds - $truth));
            self::assertGreaterThan(0.0, $p->high - $p->low);
        }
        self::assertLessThan(1.5, $off, 'of 15 from its least to its most');
    }

    public function testWeightsAreRepetitionsOnAverageAndTheSameSeedTheSameModel(): void
    {
        $task = self::task(Task::TWO, 900);
        $one = self::fitted($task);
        self::assertSame(json_encode($one->toArray()), json_encode(self::fitted($task)->toArray()));
        self::assertNotSame(json_encode($one->toArray()), json_encode(self::fitted($task, ['seed' => 7])->toArray()));
        $twice = self::fitted(new Task($task->table, $task->inputs, $task->outcome, $task->rows, array_fill(0, 900, 2.0)));
        foreach ($one->predict($task->table) as $row => $p) {
            self::assertEqualsWithDelta($p, $twice->predict($task->table)[$row], 0.02, 'a weight that all share changes next to nothing');
        }
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function refused(): iterable
    {
        yield 'a column that is none' => [['rising' => 'w'], 'There is no input w to hold.'];
        yield 'an order of what has none' => [['falling' => 'g'], 'g is a category'];
        yield 'no bag' => [['bags' => 0], '"Bags" is a whole number from 1 to 50.'];
    }

    /** @param array<string, mixed> $settings */
    #[DataProvider('refused')]
    public function testWhatCannotBeIsSaid(array $settings, string $says): void
    {
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage($says);
        self::fitted(self::task(Task::TWO, 100), $settings);
    }
}
