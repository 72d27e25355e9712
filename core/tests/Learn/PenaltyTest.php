<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Learn\Linear\LinearModel;
use Dokimos\Core\Learn\Linear\LinearRegression;
use Dokimos\Core\Learn\Logistic\Coefficient;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Logistic\MultinomialFit;
use Dokimos\Core\Learn\Logistic\MultinomialRegression;
use Dokimos\Core\Learn\Logistic\NewtonFit;
use Dokimos\Core\Learn\Logistic\SparseFit;
use Dokimos\Core\Learn\ShowsTables;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Math\Lbfgs;
use Dokimos\Core\Random;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** A penalized fit is right when no coefficient can move without loss: the conditions of Karush, Kuhn and Tucker, checked directly. */
final class PenaltyTest extends TestCase
{
    private const ROWS = 240;

    /** @return array<string, list<float>> standardized, as the penalty sees them; x and near nearly repeat each other, noise says nothing */
    private static function columns(): array
    {
        $random = new Randomizer(new Mt19937(11));
        $columns = ['x' => [], 'near' => [], 'noise' => [], 'z' => []];
        for ($i = 0; $i < self::ROWS; ++$i) {
            $columns['x'][] = $x = $random->getInt(-1000, 1000) / 300;
            $columns['near'][] = $x + $random->getInt(-100, 100) / 300;
            $columns['noise'][] = $random->getInt(-1000, 1000) / 5;
            $columns['z'][] = 1000 + $random->getInt(0, 100);
        }

        return array_map(static function (array $v): array {
            $mean = array_sum($v) / self::ROWS;
            $spread = sqrt(array_sum(array_map(static fn (float|int $c) => ($c - $mean) ** 2, $v)) / self::ROWS);

            return array_values(array_map(static fn (float|int $c): float => ($c - $mean) / $spread, $v));
        }, $columns);
    }

    /** @return iterable<string, array{string, float, float}> */
    public static function prices(): iterable
    {
        foreach ([0.5, 20.0, 400.0] as $price) {
            yield 'ridge '.$price => ['ridge', $price, 0.0];
            yield 'lasso '.$price => ['lasso', $price, 1.0];
            yield 'both '.$price => ['elastic net', $price, 0.3];
        }
    }

    /**
     * @param list<float> $residual
     * @param list<float> $column
     */
    private static function assertNoMoveHelps(float $b, array $residual, array $column, float $price, float $mix): void
    {
        $pull = 0.0;
        foreach ($residual as $i => $e) {
            $pull += $e * $column[$i];
        }
        $pull -= $price * (1 - $mix) * $b;
        if (0.0 === $b) {
            self::assertLessThanOrEqual($price * $mix + 1e-6, abs($pull));
        } else {
            self::assertEqualsWithDelta($b > 0 ? $price * $mix : -$price * $mix, $pull, 1e-6 * (1 + $price));
        }
    }

    #[DataProvider('prices')]
    public function testLeastSquares(string $kind, float $price, float $mix): void
    {
        $columns = self::columns();
        $y = array_map(static fn (int $i): float => 7 + 2 * $columns['x'][$i] - $columns['z'][$i] + sin($i), range(0, self::ROWS - 1));
        $table = Table::of(array_map(static fn (array $v) => new NumberColumn($v), $columns));
        $model = (new LinearRegression(['penalty' => $kind, 'price' => $price, 'mix' => 0.3]))->fit(new Task(
            $table,
            $table->names(),
            $y,
            range(0, self::ROWS - 1),
            null,
            null,
        ));
        $residual = array_map(static fn (float $truth, float $p): float => $truth - $p, $y, $model->predict($table));
        self::assertEqualsWithDelta(0.0, array_sum($residual), 1e-7, 'the constant is free');
        foreach ($table->names() as $j => $name) {
            self::assertNoMoveHelps($model->estimates[$j + 1], $residual, $columns[$name], $price, $mix);
        }
        self::assertEqualsWithDelta(array_sum(array_map(static fn (float $e) => $e * $e, $residual)), $model->figures->rss, 1e-6);
        self::assertNull($model->coefficients()[1]['se']);
    }

    #[DataProvider('prices')]
    public function testColumnsAsTheyAre(string $kind, float $price, float $mix): void
    {
        $scales = ['x' => 3.0, 'near' => 0.2, 'noise' => 40.0, 'z' => 1.0];
        $columns = [];
        foreach (self::columns() as $name => $values) {
            $columns[$name] = array_map(static fn (float $v): float => 5.0 + $scales[$name] * $v, $values);
        }
        $table = Table::of(array_map(static fn (array $v) => new NumberColumn($v), $columns));
        $y = array_map(static fn (int $i): float => $columns['x'][$i] - $columns['z'][$i] + 3 * sin($i), range(0, self::ROWS - 1));
        foreach ([
            'linear' => [$y, null],
            'logistic' => [array_map(static fn (float $v): float => (float) ($v > 0), $y), ['no', 'yes']],
        ] as $learner => [$outcome, $classes]) {
            $settings = ['penalty' => $kind, 'price' => $price, 'mix' => 0.3, 'scale' => 'as they are'];
            $task = new Task($table, $table->names(), $outcome, range(0, self::ROWS - 1), null, $classes);
            $model = Learners::make($learner, $settings)->fit($task);
            $residual = array_map(static fn (float $truth, float $p): float => $truth - $p, $outcome, $model->predict($table));
            self::assertEqualsWithDelta(0.0, array_sum($residual), 1e-4);
            $estimates = $model instanceof LinearModel ? $model->estimates : ($model instanceof LogisticModel ? array_map(
                static fn (Coefficient $c): float => $c->estimate,
                $model->coefficients,
            ) : []);
            foreach ($table->names() as $j => $name) {
                self::assertNoMoveHelps($estimates[$j + 1], $residual, $columns[$name], $price, $mix);
            }
        }
    }

    public function testThePriceWithTheLeastErrorOnHeldRowsIsFound(): void
    {
        $columns = self::columns();
        $y = array_map(static fn (int $i): float => 2 * $columns['x'][$i] + 3 * sin(7.7 * $i), range(0, self::ROWS - 1));
        $table = Table::of(array_map(static fn (array $v) => new NumberColumn($v), $columns));
        $model = (new LinearRegression(['penalty' => 'lasso', 'find' => true]))->fit(new Task(
            $table,
            $table->names(),
            $y,
            range(0, self::ROWS - 1),
            null,
            null,
        ));
        self::assertCount(60, $model->path);
        self::assertSame(0, $model->path[0]['terms'], 'the largest price puts out every term');
        self::assertSame(4, $model->path[59]['terms']);
        $best = min(array_column($model->path, 'error'));
        self::assertNotNull($model->penalty);
        self::assertSame(
            $model->penalty->price,
            $model->path[(int) array_search($best, array_column($model->path, 'error'), true)]['price'],
        );
        self::assertLessThan($model->path[0]['error'], $best);
    }

    #[DataProvider('prices')]
    public function testSeveralClasses(string $kind, float $price, float $mix): void
    {
        $columns = self::columns();
        $y = array_map(
            static fn (int $i): float => (float) (int) max(0, min(2, 1.2 + $columns['x'][$i] + sin(3.3 * $i))),
            range(0, self::ROWS - 1),
        );
        $table = Table::of(array_map(static fn (array $v) => new NumberColumn($v), $columns));
        $model = (new MultinomialRegression(['penalty' => $kind, 'price' => $price / 10, 'mix' => 0.3]))->fit(new Task(
            $table,
            $table->names(),
            $y,
            range(0, self::ROWS - 1),
            null,
            ['a', 'b', 'c'],
        ));
        $shares = $model->shares($table);
        foreach ([1, 2] as $class) {
            $residual = array_map(static fn (float $truth, float $p): float => (float) ((int) $truth === $class) - $p, $y, $shares[$class]);
            self::assertEqualsWithDelta(0.0, array_sum($residual), 1e-4);
            foreach ($table->names() as $j => $name) {
                self::assertNoMoveHelps($model->coefficients[$class - 1][$j + 1]->estimate, $residual, $columns[$name], $price / 10, $mix);
            }
        }
    }

    public function testSlopesAloneLeadToTheSamePlace(): void
    {
        $columns = self::columns();
        unset($columns['near']);
        $x = Matrix::ofColumns(
            [array_fill(0, self::ROWS, 1.0), ...array_values($columns)],
            ['(intercept)', ...array_keys($columns)],
            self::ROWS,
        );
        $y = array_map(
            static fn (int $i): int => max(0, min(2, (int) round(1.0 + $columns['x'][$i] + 2 * sin(3.3 * $i)))),
            range(0, self::ROWS - 1),
        );
        $weights = [array_fill(0, self::ROWS, 1.0)];
        foreach ([0.0, 2.0] as $ridge) {
            [$newton, $climb] = [new MultinomialFit($x, [$y], $weights, 3, $ridge), new MultinomialFit($x, [$y], $weights, 3, $ridge)];
            $newton->run();
            $climb->climb();
            self::assertTrue($climb->converged);
            foreach ($newton->beta as $i => $b) {
                self::assertEqualsWithDelta($b, $climb->beta[$i], 1e-5);
            }
            self::assertEqualsWithDelta($newton->logLikelihood, $climb->logLikelihood, 1e-8);
        }
        $two = new NewtonFit($x, [array_map(static fn (int $c): float => (float) ($c > 1), $y)], $weights);
        $found = Lbfgs::highest(array_fill(0, 4, 0.0), $two->slope(...));
        foreach ($two->run()->beta as $i => $b) {
            self::assertEqualsWithDelta($b, $found['place'][$i], 1e-5);
        }
        self::assertSame(
            4,
            \count((new SparseFit(
                new NewtonFit($x, [array_map(static fn (int $c): float => (float) ($c > 1), $y)], $weights),
                1e6,
            ))->run(array_fill(0, 4, 0.0))->beta),
        );
    }

    public function testAPriceThatWasLookedForIsShownWithWhatItCosts(): void
    {
        $random = Random::stream(2, 'prices');
        $x = array_map(static fn (): float => $random->getInt(-100, 100) / 10, range(1, 200));
        $idle = array_map(static fn (): float => $random->getInt(-100, 100) / 10, range(1, 200));
        $y = array_map(static fn (float $v): float => 3 * $v + $random->getInt(-50, 50) / 10, $x);
        $task = new Task(
            Table::of(['x' => new NumberColumn($x), 'idle' => new NumberColumn($idle)]),
            ['x', 'idle'],
            $y,
            range(0, 199),
            null,
            null,
        );
        $found = Learners::make('linear', ['penalty' => 'lasso', 'find' => true])->fit($task);
        self::assertInstanceOf(ShowsTables::class, $found);
        [$table] = $found->shownTables();
        self::assertStringStartsWith('Held back by ', $table->title);
        self::assertSame(
            [0.0, 2.0],
            [$table->rows[0][1]->value, $table->rows[\count($table->rows) - 1][1]->value],
            'from none of the terms to all',
        );
        $errors = array_map(static fn (array $row): float => (float) $row[2]->value, $table->rows);
        $taken = array_keys(array_filter($table->rows, static fn (array $row): bool => 'taken' === $row[3]->text));
        self::assertSame([(int) array_search(min([\INF, ...$errors]), $errors, true)], $taken, 'the least error');
        self::assertTrue($table->rows[0][2]->low < $errors[0] && $errors[0] < $table->rows[0][2]->high);
        $given = Learners::make('linear', ['penalty' => 'lasso', 'price' => 2])->fit($task);
        self::assertInstanceOf(ShowsTables::class, $given);
        self::assertSame([], $given->shownTables());
    }
}
