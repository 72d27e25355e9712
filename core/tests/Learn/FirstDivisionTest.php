<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\ShowsImportance;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** The one division that a learner of trees takes is the best of all there are, found here by trying every one. */
final class FirstDivisionTest extends TestCase
{
    private const ROWS = 60;

    /** @return iterable<string, array{string, string, int, bool}> criterion, task, seed, whether values weigh */
    public static function trees(): iterable
    {
        foreach (['Gini', 'entropy', 'gain ratio'] as $criterion) {
            foreach ([Task::TWO, Task::MORE] as $kind) {
                foreach ([1, 2, 3, 4] as $seed) {
                    yield "$criterion, $kind, $seed" => [$criterion, $kind, $seed, false];
                }
                yield "$criterion, $kind, weighted" => [$criterion, $kind, 7, true];
            }
        }
        foreach ([1, 2, 3, 4, 5] as $seed) {
            yield "variance, $seed" => ['variance', Task::NUMBER, $seed, false];
        }
        yield 'variance, weighted' => ['variance', Task::NUMBER, 7, true];
    }

    /** A number with ties, one without, and a category of three values. */
    private static function task(string $kind, int $seed, bool $weighted): Task
    {
        $random = new Randomizer(new Mt19937($seed));
        $x = $z = $g = $y = $w = [];
        for ($i = 0; $i < self::ROWS; ++$i) {
            $x[] = (float) $random->getInt(0, 9);
            $z[] = $random->getInt(0, 1_000_000) / 1000;
            $g[] = ['north', 'south', 'west'][$random->getInt(0, 2)];
            $pull = $x[$i] / 3 + ('south' === $g[$i] ? 1.5 : 0.0) + $random->getInt(-20, 20) / 10;
            $y[] = match ($kind) {
                Task::NUMBER => $pull,
                Task::TWO => (float) ($pull > 2.0),
                default => $pull < 1.0 ? 0.0 : ($pull < 3.0 ? 1.0 : 2.0),
            };
            $w[] = (float) $random->getInt(1, 4);
        }
        $classes = [Task::NUMBER => null, Task::TWO => ['no', 'yes'], Task::MORE => ['a', 'b', 'c']][$kind];
        $table = Table::of(['x' => new NumberColumn($x), 'z' => new NumberColumn($z), 'g' => CodedColumn::fromCells($g)]);

        return new Task($table, ['x', 'z', 'g'], $y, range(0, self::ROWS - 1), $weighted ? $w : null, $classes);
    }

    /** @return iterable<list<bool>> whether each row goes one way */
    private static function divisions(Task $task): iterable
    {
        foreach (['x', 'z'] as $name) {
            $values = $task->table->number($name)->values;
            $cuts = array_unique($values);
            sort($cuts);
            array_pop($cuts);
            foreach ($cuts as $cut) {
                yield array_map(static fn (float $v): bool => $v <= $cut, $values);
            }
        }
        $column = $task->table->column('g');
        \assert($column instanceof CodedColumn);
        foreach ([0, 1, 2] as $code) {
            yield array_map(static fn (int $c): bool => $c === $code, $column->codes);
        }
    }

    /**
     * @param list<bool> $one
     *
     * @return array{list<int>, list<int>}
     */
    private static function parts(array $one): array
    {
        return [array_keys($one, true, true), array_keys($one, false, true)];
    }

    /** @param list<int> $rows */
    private static function mixed(Task $task, array $rows, string $criterion): float
    {
        $n = $sum = $squares = 0.0;
        $counts = [];
        foreach ($rows as $row) {
            $w = $task->weights[$row] ?? 1.0;
            $n += $w;
            $sum += $w * $task->outcome[$row];
            $squares += $w * $task->outcome[$row] ** 2;
            $counts[(int) $task->outcome[$row]] = ($counts[(int) $task->outcome[$row]] ?? 0.0) + $w;
        }
        if ($n <= 0.0) {
            return 0.0;
        }
        if ('variance' === $criterion) {
            return $squares - $sum * $sum / $n;
        }
        if ('Gini' === $criterion) {
            return $n * (1.0 - array_sum(array_map(static fn (float $c): float => ($c / $n) ** 2, $counts)));
        }

        return -array_sum(array_map(static fn (float $c): float => $c * log($c / $n, 2), $counts));
    }

    /** @param list<bool> $one */
    private static function gain(Task $task, array $one, string $criterion): float
    {
        [$left, $right] = self::parts($one);
        $gain = self::mixed(
            $task,
            range(0, self::ROWS - 1),
            $criterion,
        ) - self::mixed($task, $left, $criterion) - self::mixed($task, $right, $criterion);

        return $gain;
    }

    /** @param list<bool> $one */
    private static function ratio(Task $task, array $one): float
    {
        $weight = static fn (array $rows): float => array_sum(array_map(static fn (int $r): float => $task->weights[$r] ?? 1.0, $rows));
        [$a, $b] = array_map($weight, self::parts($one));
        $split = -($a * log($a / ($a + $b), 2) + $b * log($b / ($a + $b), 2));

        return self::gain($task, $one, 'gain ratio') / $split;
    }

    /** @return list<bool> which rows get the answer of the first one */
    private static function taken(Model $model, Task $task): array
    {
        $answers = $model->predict($task->table);
        if (null !== $task->classes && $model instanceof TellsClasses) {
            $shares = $model->shares($task->table, range(0, self::ROWS - 1));
            $answers = array_map(static fn (int $i): string => implode(' ', array_column($shares, $i)), range(0, self::ROWS - 1));
        }

        return array_map(static fn (mixed $a): bool => $a === $answers[0], $answers);
    }

    #[DataProvider('trees')]
    public function testATreeTakesTheBestOfAllDivisions(string $criterion, string $kind, int $seed, bool $weighted): void
    {
        $task = self::task($kind, $seed, $weighted);
        $settings = ['depth' => 1, 'leaf' => 1, 'divide' => 2, 'judged' => 0.0, 'pruning' => 'not at all'];
        $tree = Learners::make('tree', $settings + ('variance' === $criterion ? [] : ['criterion' => $criterion]))->fit($task);
        $taken = self::taken($tree, $task);
        self::assertContains(false, $taken, 'it divides');
        $all = iterator_to_array(self::divisions($task), false);
        if ('gain ratio' !== $criterion) {
            $best = max(0.0, ...array_map(static fn (array $d): float => self::gain($task, $d, $criterion), $all));
            self::assertEqualsWithDelta($best, self::gain($task, $taken, $criterion), 1e-9);

            return;
        }
        // Quinlan's rule: the largest ratio among the divisions with at least the mean gain of those that gain anything.
        $gains = array_map(static fn (array $d): float => self::gain($task, $d, $criterion), $all);
        $ratio = self::ratio($task, $taken);
        self::assertGreaterThan(0.0, $ratio);
        $better = array_filter(
            $all,
            static fn (array $d, int $i): bool => self::ratio($task, $d) > $ratio + 1e-9
                && $gains[$i] > self::gain($task, $taken, $criterion) + 1e-9,
            \ARRAY_FILTER_USE_BOTH,
        );
        self::assertSame([], $better, 'no division is better in both, gain and ratio');
    }

    #[DataProvider('trees')]
    public function testALeafSaysWhatItsRowsSay(string $criterion, string $kind, int $seed, bool $weighted): void
    {
        $task = self::task($kind, $seed, $weighted);
        $settings = ['depth' => 3, 'leaf' => 4, 'divide' => 8, 'judged' => 0.0, 'pruning' => 'not at all'];
        $tree = Learners::make('tree', $settings + ('variance' === $criterion ? [] : ['criterion' => $criterion]))->fit($task);
        $shares = Task::NUMBER !== $kind && $tree instanceof TellsClasses
            ? $tree->shares($task->table, range(0, self::ROWS - 1))
            : [$tree->predict($task->table)];
        $leaves = [];
        \assert($tree instanceof TreeModel);
        foreach ($tree->leaves($task->table) as $i => $leaf) {
            $leaves[$leaf][] = $i;
        }
        self::assertGreaterThan(1, \count($leaves));
        foreach ($leaves as $rows) {
            self::assertGreaterThanOrEqual(
                4,
                array_sum(array_map(static fn (int $r): float => $task->weights[$r] ?? 1.0, $rows)),
                'a leaf holds as many as it must',
            );
            foreach ($shares as $k => $own) {
                self::assertEqualsWithDelta(self::answer($task, $rows, $k), $own[$rows[0]], 1e-9);
            }
        }
    }

    /**
     * The mean of the rows; or the share of a class, with twenty rows added that are mixed as all are, each class counted once more.
     *
     * @param list<int> $rows
     */
    private static function answer(Task $task, array $rows, int $class): float
    {
        $sum = static function (array $of, ?int $class) use ($task): float {
            $total = 0.0;
            foreach ($of as $r) {
                $is = match (true) {
                    null === $class => 1.0,
                    null === $task->classes => $task->outcome[$r],
                    default => (float) ((int) $task->outcome[$r] === $class),
                };
                $total += ($task->weights[$r] ?? 1.0) * $is;
            }

            return $total;
        };
        if (null === $task->classes) {
            return $sum($rows, 0) / $sum($rows, null);
        }
        $all = range(0, self::ROWS - 1);
        $usual = ($sum($all, $class) + 1.0) / ($sum($all, null) + \count($task->classes));

        return ($sum($rows, $class) + 20.0 * $usual) / ($sum($rows, null) + 20.0);
    }

    /** @return iterable<string, array{string, int, float, int}> task, seed, ridge, rows in a leaf at least */
    public static function boosted(): iterable
    {
        foreach ([Task::TWO, Task::NUMBER] as $kind) {
            foreach ([1, 2, 3] as $seed) {
                yield "$kind, $seed" => [$kind, $seed, 0.0, 1];
                yield "$kind, $seed, ridge" => [$kind, $seed, 5.0, 1];
                yield "$kind, $seed, large leaves" => [$kind, $seed, 1.0, 18];
            }
        }
    }

    /** The gain of a step of Newton: G² / (H + ridge) of both sides, less that of all. */
    #[DataProvider('boosted')]
    public function testTheFirstTreeOfBoostingTakesTheBestStepOfNewton(string $kind, int $seed, float $ridge, int $leaf): void
    {
        $task = self::task($kind, $seed, false);
        // Few enough values that each is a bin of its own.
        $task = new Task($task->table, ['x', 'g'], $task->outcome, $task->rows, null, $task->classes);
        $settings = ['trees' => 1, 'leaves' => 2, 'rate' => 1.0, 'columns' => 1.0, 'patience' => 0, 'leaf' => $leaf, 'ridge' => $ridge];
        $model = Learners::make('boosting', $settings)->fit($task);
        $mean = array_sum($task->outcome) / self::ROWS;
        $slope = array_map(static fn (float $y): float => $y - $mean, $task->outcome);
        $curve = Task::TWO === $kind ? $mean * (1 - $mean) : 1.0;
        $step = static function (array $rows) use ($slope, $curve, $ridge): float {
            return array_sum(array_map(static fn (int $r): float => $slope[$r], $rows)) / (\count($rows) * $curve + $ridge);
        };
        /** @param list<bool> $one */
        $gain = static function (array $one) use ($slope, $step): float {
            return array_sum(array_map(
                static fn (array $rows): float => array_sum(array_map(static fn (int $r): float => $slope[$r], $rows)) * $step($rows),
                self::parts(array_values($one)),
            ));
        };
        $all = array_filter(
            iterator_to_array(self::divisions($task), false),
            static fn (array $d): bool => min(array_map(\count(...), self::parts($d))) >= max(1, $leaf),
        );
        // A cut on z is none that it may take.
        $column = $task->table->number('x')->values;
        $codes = $task->table->column('g');
        \assert($codes instanceof CodedColumn);
        $may = array_filter($all, static function (array $d) use ($column, $codes): bool {
            $by = [];
            foreach ($d as $r => $side) {
                $by['x'.$column[$r]][(int) $side] = true;
                $by['g'.$codes->codes[$r]][(int) $side] = true;
            }
            $whole = static fn (string $of): bool => [] === array_filter(
                $by,
                static fn (array $s, string $k): bool => str_starts_with($k, $of) && \count($s) > 1,
                \ARRAY_FILTER_USE_BOTH,
            );

            return $whole('x') || $whole('g');
        });
        $answers = $model->predict($task->table);
        $taken = array_map(static fn (float $a): bool => $a === $answers[0], $answers);
        $best = max(0.0, ...array_map($gain, $may));
        self::assertEqualsWithDelta($best, $gain($taken), 1e-4 * $best, 'the best of '.\count($may));
        $start = Task::TWO === $kind ? log($mean / (1 - $mean)) : $mean;
        foreach (self::parts($taken) as $rows) {
            $score = $start + $step($rows);
            // Slopes and curves are counted in whole steps, packed into one number.
            self::assertEqualsWithDelta(Task::TWO === $kind ? 1 / (1 + exp(-$score)) : $score, $answers[$rows[0]], 1e-3);
        }
    }

    public function testHowManyColumnsAForestTriesIsAsSaid(): void
    {
        $random = new Randomizer(new Mt19937(3));
        $columns = [];
        for ($k = 0; $k < 9; ++$k) {
            $columns["c$k"] = new NumberColumn(array_map(static fn (): float => (float) $random->getInt(0, 999), range(1, 240)));
        }
        // One column says all: the fewer are tried, the more first divisions are by another one.
        $y = array_map(static fn (float $v): float => (float) ($v > 500), $columns['c0']->values);
        $task = new Task(Table::of($columns), array_keys($columns), $y, range(0, 239), null, ['no', 'yes']);
        $first = [];
        foreach (['all', 'a third', 'the square root'] as $tried) {
            $forest = Learners::make('forest', ['trees' => 300, 'depth' => 1, 'tried' => $tried])->fit($task);
            \assert($forest instanceof ShowsImportance);
            $share = array_column($forest->importance(), 'share', 'column')['c0'] ?? 0.0;
            $first[$tried] = $share;
        }
        self::assertEqualsWithDelta(1.0, $first['all'], 1e-9, 'all are tried: it is always the one');
        // Three of nine either way: tried in a third of the divisions, and there it gains nearly all that is gained.
        self::assertLessThan(1.0, $first['a third']);
        self::assertEqualsWithDelta($first['the square root'], $first['a third'], 1e-12, 'the square root of nine is a third of it');
        self::assertGreaterThan(0.85, $first['a third']);
    }
}
