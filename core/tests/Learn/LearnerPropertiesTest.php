<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\Room;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** What holds for every learner and every task it takes, on good data and bad. */
final class LearnerPropertiesTest extends TestCase
{
    private const CLASSES = [Task::NUMBER => null, Task::TWO => ['no', 'yes'], Task::MORE => ['a', 'b', 'c']];
    /** Small enough to be quick, large enough to divide. */
    private const SETTINGS = [
        'forest' => ['trees' => 15],
        'boosting' => ['trees' => 40],
        'tree' => ['leaf' => 10, 'divide' => 20],
        'rules' => ['leaf' => 10],
        'additive' => ['bags' => 3, 'leaf' => 5],
        'neural-network' => ['layers' => '16', 'rate' => 0.01],
    ];

    /** Settings that lead through other code. */
    private const VARIANTS = [
        'logistic' => [
            ['penalty' => 'elastic net'],
            ['missing' => 'fill and mark'],
            ['selection' => 'stepwise'],
            ['selection' => 'forward', 'by' => 'error on held rows'],
            ['selection' => 'best subsets'],
            ['coding' => 'ordered', 'rare' => 3],
            ['bent' => 'all', 'missing' => 'fill and mark'],
            ['coding' => 'target mean', 'missing' => 'fill and mark'],
        ],
        'linear' => [
            ['penalty' => 'ridge'],
            ['penalty' => 'lasso', 'find' => true],
            ['missing' => 'fill and mark'],
            ['selection' => 'backward', 'by' => 'BIC'],
            ['selection' => 'forward', 'by' => 'error on held rows'],
            ['selection' => 'best subsets', 'compare' => 'error on held rows', 'columns' => 2],
            ['coding' => 'one per value', 'penalty' => 'ridge', 'scale' => 'as they are'],
            ['otherwise' => 'g: target mean'],
            ['bent' => 'all', 'knots' => 5, 'penalty' => 'ridge'],
        ],
        'multinomial' => [
            ['selection' => 'best subsets', 'compare' => 'BIC'],
            ['selection' => 'forward'],
            ['coding' => 'ordered', 'rare' => 90],
            ['bent' => 'x', 'knots' => 3],
            ['penalty' => 'lasso', 'price' => 0.1],
            ['penalty' => 'ridge', 'missing' => 'fill and mark'],
        ],
        'tree' => [['criterion' => 'gain ratio', 'pruning' => 'by cost-complexity']],
        'forest' => [['drawn' => true]],
        'boosting' => [['rows' => 0.5]],
        'baseline' => [['answer' => 'median'], ['answer' => 'rule by one column']],
        'naive-bayes' => [['numbers' => 'as they lie'], ['numbers' => 'as normal', 'smoothing' => 0.0], ['calibrate' => 'no']],
        'bayes-network' => [['calibrate' => 'no', 'columns' => 2], ['smoothing' => 0.0]],
        'neural-network' => [
            ['layers' => '8', 'bend' => 'tanh', 'dropout' => 0.1, 'schedule' => 'falls to a tenth'],
            ['layers' => '', 'optimizer' => 'momentum', 'rate' => 0.02],
        ],
        'additive' => [['pairs' => 0, 'bags' => 1], ['bins' => 12, 'ridge' => 5.0]],
        'neighbors' => [['find' => false, 'k' => 7], ['weights' => 'nearer ones more', 'smoothing' => 0.0]],
    ];

    /** @return iterable<string, array{string, string, array<string, mixed>}> */
    public static function tasks(): iterable
    {
        foreach (Learners::all() as $learner) {
            foreach ($learner->tasks as $task) {
                foreach ([[], ...self::VARIANTS[$learner->name] ?? []] as $settings) {
                    if (Task::NUMBER === $task || 'median' !== ($settings['answer'] ?? null)) {
                        yield $learner->name.', '.$task.', '.json_encode($settings) => [$learner->name, $task, $settings];
                    }
                }
            }
        }
    }

    private static function drawn(string $kind, int $rows = 300): Task
    {
        $random = new Randomizer(new Mt19937(5));
        $x = $z = $g = $y = [];
        for ($i = 0; $i < $rows; ++$i) {
            $x[] = $random->getInt(-100, 100) / 20;
            $z[] = 0 === $i % 7 && \in_array($kind, [Task::NUMBER], true) ? \NAN : $random->getInt(0, 1000) / 10;
            $g[] = ['north', 'south', 'east', 'west'][$random->getInt(0, 3)];
            $pull = $x[$i] + ('north' === $g[$i] ? 2.0 : 0.0) + $random->getInt(-100, 100) / 50;
            $y[] = match ($kind) {
                Task::NUMBER => 10 + $pull,
                Task::TWO => (float) ($pull > 0.5),
                default => $pull < -1.5 ? 0.0 : ($pull < 2.0 ? 1.0 : 2.0),
            };
        }

        return new Task(
            Table::of(['x' => new NumberColumn($x), 'z' => new NumberColumn($z), 'g' => CodedColumn::fromCells($g)]),
            ['x', 'z', 'g'],
            $y,
            range(0, $rows - 1),
            null,
            self::CLASSES[$kind],
        );
    }

    /** @param array<string, mixed> $more */
    private static function fit(string $name, Task $task, array $more = []): Model
    {
        return Learners::make($name, $more + (self::SETTINGS[$name] ?? []))->fit($task);
    }

    /** @param array<string, mixed> $settings */
    #[DataProvider('tasks')]
    public function testAModelIsReadBackTheSameAndItsChancesAddUp(string $name, string $kind, array $settings): void
    {
        $task = self::drawn($kind);
        $model = self::fit($name, $task, $settings);
        /** @var array<string, mixed> $stored */
        $stored = json_decode(json_encode($model->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true);
        $back = Learners::read($stored);
        // As bytes: a model that cannot answer says NAN, which equals nothing.
        self::assertSame(pack('e*', ...$model->predict($task->table)), pack('e*', ...$back->predict($task->table)));
        self::assertSame([$model->columns(), $model->notes()], [$back->columns(), $back->notes()]);
        foreach ($model->predict($task->table) as $row => $v) {
            // Linear models say nothing where a value is missing.
            self::assertTrue(is_finite($v) || (is_nan($v) && is_nan($task->table->number('z')->values[$row])));
        }
        if (Task::NUMBER !== $kind && $model instanceof TellsClasses) {
            $shares = $model->shares($task->table, [5, 1, 5]);
            self::assertCount(\count((array) $task->classes), $shares);
            foreach ([0, 1, 2] as $i) {
                self::assertEqualsWithDelta(1.0, array_sum(array_column($shares, $i)), 1e-12);
            }
            self::assertSame(array_column($shares, 0), array_column($shares, 2), 'a row may be asked for twice');
            self::assertSame($shares[\count($shares) - 1], $model->predict($task->table, [5, 1, 5]));
        }
        self::assertSame([], $model->predict($task->table->take([])));
    }

    /** @param array<string, mixed> $settings */
    #[DataProvider('tasks')]
    public function testItLearnsWhatIsThere(string $name, string $kind, array $settings): void
    {
        if ('baseline' === $name && 'rule by one column' !== ($settings['answer'] ?? '')) {
            $this->expectNotToPerformAssertions();

            return;
        }
        $task = self::drawn($kind, 600);
        $learned = new Task($task->table, $task->inputs, $task->outcome, range(0, 399), null, $task->classes);
        [$model, $base] = [self::fit($name, $learned, $settings), Learners::make('baseline')->fit($learned)];
        self::assertLessThan(0.6 * self::loss($base, $task), self::loss($model, $task));
    }

    /** Mean squared error of the number or of the chance of the last class, on rows 400 to 599. */
    private static function loss(Model $model, Task $task): float
    {
        $sum = 0.0;
        $n = 0;
        $last = null === $task->classes ? null : \count($task->classes) - 1;
        foreach ($model->predict($task->table, range(400, 599)) as $i => $p) {
            if (is_nan($p)) {
                continue;
            }
            $truth = $task->outcome[400 + $i];
            $sum += ($p - (null === $last ? $truth : (float) ((int) $truth === $last))) ** 2;
            ++$n;
        }

        return $sum / $n;
    }

    /** @return iterable<string, array{Table, list<float>}> */
    private static function hostile(): iterable
    {
        $y = array_map(static fn (int $i) => (float) ($i % 2), range(0, 59));
        $n = static fn (\Closure $v) => new NumberColumn(array_map($v, range(0, 59)));
        $good = $n(static fn (int $i) => (float) (($i * 7) % 13));
        yield 'a constant' => [Table::of(['x' => $n(static fn () => 3.0), 'good' => $good]), $y];
        yield 'nothing but constants' => [Table::of(['x' => $n(static fn () => 3.0)]), $y];
        yield 'all missing' => [Table::of(['x' => $n(static fn () => \NAN), 'good' => $good]), $y];
        yield 'one class' => [Table::of(['good' => $good]), array_fill(0, 60, 1.0)];
        yield 'one row' => [Table::of(['good' => new NumberColumn([1.0])]), [1.0]];
        yield 'two rows' => [Table::of(['good' => new NumberColumn([1.0, 2.0])]), [1.0, 0.0]];
        yield 'more columns than rows' => [
            Table::of(array_map(
                static fn (int $k) => new NumberColumn([(float) ($k % 3), (float) ($k % 5), (float) ($k % 7), (float) $k]),
                array_combine(array_map(static fn (int $k) => 'c'.$k, range(1, 40)), range(1, 40)),
            )),
            [1.0, 0.0, 1.0, 0.0],
        ];
        yield 'the same column twice' => [Table::of(['x' => $good, 'y' => $good]), $y];
        yield 'very large' => [Table::of(['x' => $n(static fn (int $i) => $i * 1e300 / 60), 'good' => $good]), $y];
        yield 'infinite' => [
            Table::of(['x' => $n(static fn (int $i) => 0 === $i % 5 ? \INF : (0 === $i % 7 ? -\INF : (float) $i)), 'good' => $good]),
            $y,
        ];
        yield 'very small' => [Table::of(['x' => $n(static fn (int $i) => $i * 5e-324)]), $y];
        yield 'a category of all different values' => [
            Table::of(['x' => CodedColumn::fromCells(array_map(static fn (int $i) => 'v'.$i, range(0, 59))), 'good' => $good]),
            $y,
        ];
        yield 'more levels than there is room for' => [
            Table::of(['x' => CodedColumn::fromCells(array_map(static fn (int $i) => 'v'.$i % 130, range(0, 299)))]),
            array_map(static fn (int $i) => (float) (0 === $i % 130 % 3), range(0, 299)),
        ];
        yield 'empty text' => [Table::of(['x' => new TextColumn(array_fill(0, 60, '')), 'good' => $good]), $y];
        yield 'an outcome that is told completely' => [Table::of(['x' => new NumberColumn($y)]), $y];
        yield 'mostly unknown outcomes' => [
            Table::of(['good' => $good]),
            array_map(static fn (float $v, int $i) => 0 === $i % 9 ? $v : \NAN, $y, array_keys($y)),
        ];
        yield 'infinite outcomes' => [
            Table::of(['good' => $good]),
            array_map(static fn (float $v, int $i) => 0 === $i % 9 ? \INF : $v, $y, array_keys($y)),
        ];
        yield 'no column at all' => [Table::of([], 60), $y];
    }

    /** A right result or a sentence that says why not; never a warning or a chance that is none. */
    /** @param array<string, mixed> $settings */
    #[DataProvider('tasks')]
    public function testBadDataGiveAResultOrASentence(string $name, string $kind, array $settings): void
    {
        foreach (self::hostile() as $what => [$table, $y]) {
            $names = $table->names();
            try {
                $model = self::fit($name, new Task($table, $names, $y, array_keys($y), null, self::CLASSES[$kind]), $settings);
            } catch (CannotFit $e) {
                self::assertMatchesRegularExpression('/^[A-Z].*\.$/', $e->getMessage(), $what);
                continue;
            }
            foreach ($model->predict($table) as $row => $v) {
                $silent = array_filter($model->columns(), static fn (string $c) => $table->column($c)->isMissing($row));
                self::assertTrue(
                    is_finite($v) || [] !== $silent || ($table->has('x') && $table->column('x') instanceof NumberColumn && is_infinite($table->number('x')->values[$row])),
                    $what.', row '.$row.': '.$v,
                );
                self::assertTrue(Task::NUMBER === $kind || is_nan($v) || ($v >= 0.0 && $v <= 1.0), $what);
            }
            json_encode($model->toArray(), \JSON_THROW_ON_ERROR);
        }
    }

    /** A batch brings only the columns that the model says it needs. */
    public function testAModelNeedsNoColumnsButThoseItNames(): void
    {
        $few = [
            'tree' => ['depth' => 1],
            'rules' => ['depth' => 1],
            'forest' => ['trees' => 1, 'depth' => 1],
            'boosting' => ['trees' => 1, 'leaves' => 2, 'again' => false],
        ];
        foreach (self::tasks() as $what => [$name, $kind, $settings]) {
            $task = self::drawn($kind);
            $model = self::fit($name, $task, ($few[$name] ?? []) + $settings);
            $only = Table::of(array_intersect_key($task->table->columns(), array_flip($model->columns())), $task->table->rows);
            self::assertSame(pack('e*', ...$model->predict($task->table)), pack('e*', ...$model->predict($only)), $what);
            self::assertTrue(!isset($few[$name]) || \count($model->columns()) < 3, $what);
        }
    }

    public function testWeightsOfATreeAreRepetitions(): void
    {
        foreach ([Task::TWO, Task::MORE, Task::NUMBER] as $kind) {
            $task = self::drawn($kind, 200);
            $rows = $weights = [];
            foreach (range(0, 199) as $row) {
                $weights[] = (float) ($row % 3 + 1);
                for ($i = 0; $i <= $row % 3; ++$i) {
                    $rows[] = $row;
                }
            }
            $settings = ['judged' => 0.0];
            $repeated = self::fit(
                'tree',
                new Task(
                    $task->table->take($rows),
                    $task->inputs,
                    array_map(static fn (int $r) => $task->outcome[$r], $rows),
                    array_keys($rows),
                    null,
                    $task->classes,
                ),
                $settings,
            );
            $weighted = self::fit(
                'tree',
                new Task($task->table, $task->inputs, $task->outcome, $task->rows, $weights, $task->classes),
                $settings,
            );
            foreach ($repeated->predict($task->table) as $row => $v) {
                self::assertEqualsWithDelta($v, $weighted->predict($task->table)[$row], 1e-9, $kind);
            }
        }
    }

    public function testBoostingOnceMoreIsBoostingOnAllRowsWithTheRoundsFound(): void
    {
        foreach ([Task::TWO, Task::MORE, Task::NUMBER] as $kind) {
            $task = self::drawn($kind, 500);
            $settings = ['trees' => 120, 'patience' => 8, 'rows' => 0.7];
            $again = self::fit('boosting', $task, $settings);
            self::assertSame(
                1,
                preg_match(
                    '/^(\d+) of \d+ rounds were kept.* Then it was fitted once more on all 500 rows/',
                    implode(' ', $again->notes()),
                    $said,
                ),
                implode(' ', $again->notes()),
            );
            $whole = self::fit('boosting', $task, ['trees' => (int) $said[1], 'patience' => 0] + $settings);
            self::assertSame($whole->predict($task->table), $again->predict($task->table), $kind);
            $once = self::fit('boosting', $task, ['again' => false] + $settings);
            self::assertNotSame($once->predict($task->table), $again->predict($task->table), $kind);
            self::assertStringContainsString($said[1].' of ', implode(' ', $once->notes()));
            self::assertStringNotContainsString('once more', implode(' ', $once->notes()));
        }
    }

    public function testTheOrderOfRowsDoesNotMatter(): void
    {
        foreach (['tree' => ['judged' => 0.0], 'boosting' => ['patience' => 0, 'columns' => 1.0]] as $name => $settings) {
            foreach ([Task::TWO, Task::NUMBER] as $kind) {
                $task = self::drawn($kind);
                /** @var list<int> $order */
                $order = (new Randomizer(new Mt19937(8)))->shuffleArray($task->rows);
                $mixed = new Task(
                    $task->table->take($order),
                    $task->inputs,
                    array_map(static fn (int $r) => $task->outcome[$r], $order),
                    $task->rows,
                    null,
                    $task->classes,
                );
                $one = self::fit($name, $task, $settings)->predict($task->table);
                foreach (self::fit($name, $mixed, $settings)->predict($task->table) as $row => $v) {
                    self::assertEqualsWithDelta($one[$row], $v, 1e-6, $name.', '.$kind);
                }
            }
        }
    }

    public function testTreesDoNotSeeTheScaleOfAColumn(): void
    {
        $task = self::drawn(Task::TWO);
        $raised = new Task(
            $task->table->with('x', new NumberColumn(array_map(static fn (float $v) => exp($v) * 1e6, $task->table->number('x')->values))),
            $task->inputs,
            $task->outcome,
            $task->rows,
            null,
            $task->classes,
        );
        foreach (['tree', 'forest', 'boosting'] as $name) {
            self::assertSame(self::fit($name, $task)->predict($task->table), self::fit($name, $raised)->predict($raised->table), $name);
        }
    }

    public function testWhatMayOnlyRiseRises(): void
    {
        $task = self::drawn(Task::NUMBER, 400);
        $grid = Table::of([
            'x' => new NumberColumn(array_map(static fn (int $i) => $i / 10, range(-50, 50))),
            'z' => new NumberColumn(array_fill(0, 101, 40.0)),
            'g' => CodedColumn::fromCells(array_fill(0, 101, 'north')),
        ]);
        $noisy = new Task(
            $task->table,
            $task->inputs,
            array_map(static fn (float $y, int $i) => $y + 6 * sin($i * 12.9898) * 0.7, $task->outcome, $task->rows),
            $task->rows,
            null,
            null,
        );
        $free = self::fit('boosting', $noisy, ['leaf' => 5])->predict($grid);
        $falls = static fn (array $v): int => \count(array_filter(range(1, 100), static fn (int $i) => $v[$i] < $v[$i - 1] - 1e-9));
        self::assertGreaterThan(0, $falls($free), 'otherwise nothing is shown');
        self::assertSame(0, $falls(self::fit('boosting', $noisy, ['leaf' => 5, 'rising' => 'x'])->predict($grid)));
        $turned = new Task($task->table, $task->inputs, array_map(static fn (float $y) => -$y, $noisy->outcome), $task->rows, null, null);
        self::assertSame(
            0,
            $falls(array_map(
                static fn (float $v) => -$v,
                self::fit('boosting', $turned, ['leaf' => 5, 'falling' => ' x '])->predict($grid),
            )),
        );
    }

    public function testLossesOfNumbersAimAtWhatTheyName(): void
    {
        $task = self::drawn(Task::NUMBER, 500);
        $counts = array_map(static fn (float $y) => floor(max(0.0, $y)), $task->outcome);
        $poisson = self::fit(
            'boosting',
            new Task($task->table, $task->inputs, $counts, $task->rows, null, null),
            ['loss' => 'Poisson'],
        )->predict($task->table);
        self::assertGreaterThan(0.0, min([1.0, ...$poisson]));
        self::assertEqualsWithDelta(array_sum($counts) / 500, array_sum($poisson) / 500, 0.4);
        foreach ([0.2, 0.8] as $q) {
            $under = 0;
            foreach (self::fit(
                'boosting',
                $task,
                ['loss' => 'quantile', 'quantile' => $q, 'trees' => 200],
            )->predict($task->table) as $row => $v) {
                $under += $task->outcome[$row] <= $v ? 1 : 0;
            }
            self::assertEqualsWithDelta($q, $under / 500, 0.08);
        }
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage('may not be below 0');
        self::fit(
            'boosting',
            new Task($task->table, $task->inputs, array_map(static fn (float $y) => -$y, $counts), $task->rows, null, null),
            ['loss' => 'Poisson'],
        );
    }

    /** @return iterable<string, array{string, array<string, mixed>, string}> */
    public static function refused(): iterable
    {
        yield 'out of range' => ['tree', ['depth' => 99], '"Questions in a row, at most" is a whole number from 0 to 60.'];
        yield 'no whole number' => ['forest', ['trees' => 2.5], 'whole number'];
        yield 'no choice' => ['tree', ['criterion' => 'luck'], 'is one of Gini, entropy, gain ratio'];
        yield 'no yes or no' => ['forest', ['drawn' => 'maybe'], 'is yes or no'];
        yield 'a column that is none' => ['boosting', ['rising' => 'w'], 'There is no input w'];
        yield 'an order of what has none' => ['boosting', ['falling' => 'g'], 'g is a category'];
        yield 'no number' => ['boosting', ['rate' => 'NAN'], 'is a number from 0.001 to 1'];
    }

    /** @param array<string, mixed> $settings */
    #[DataProvider('refused')]
    public function testSettingsAreRefusedWithASentence(string $name, array $settings, string $says): void
    {
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage($says);
        self::fit($name, self::drawn(Task::TWO), $settings);
    }

    public function testAMatrixBeyondMemoryIsASentenceBeforeItIsMade(): void
    {
        Room::demand(1_000, 20, 4);
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessageMatches('/^1,000 terms for 50,000,000 rows need about 2[\d,]+\.\d GB of memory, and [\d.]+ GB may be used\. Leave out/');
        Room::demand(50_000_000, 1_000, 3);
    }
}
