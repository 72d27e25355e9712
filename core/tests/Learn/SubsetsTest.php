<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Term;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Linear\LinearModel;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Logistic\MultinomialModel;
use Dokimos\Core\Learn\Selection\Screen;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Math\Cholesky;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** The search for the best subsets against looking at every one. */
final class SubsetsTest extends TestCase
{
    private const INPUTS = ['a', 'b', 'c', 'g', 'h'];
    private const TASKS = ['number' => null, 'two classes' => ['no', 'yes'], 'several classes' => ['p', 'q', 'r']];

    /** @param ?list<string> $classes */
    private static function task(?array $classes, int $seed, int $rows = 160): Task
    {
        $random = new Randomizer(new Mt19937($seed));
        $columns = ['a' => [], 'b' => [], 'c' => [], 'g' => [], 'h' => []];
        $y = $w = [];
        for ($i = 0; $i < $rows; ++$i) {
            $columns['a'][] = $a = $random->getInt(-300, 300) / 100;
            $columns['b'][] = $b = $a + $random->getInt(-200, 200) / 100;
            $columns['c'][] = $random->getInt(-300, 300) / 10;
            $columns['g'][] = $g = ['x', 'y', 'z'][$random->getInt(0, 2)];
            $columns['h'][] = ['one', 'two', 'three', 'four'][$random->getInt(0, 3)];
            $pull = $b + ('y' === $g ? 1.5 : 0.0) + $random->getInt(-300, 300) / 100;
            $y[] = match (null === $classes ? 0 : \count($classes)) {
                0 => $pull,
                2 => (float) ($pull > 0),
                default => $pull < -1 ? 0.0 : ($pull < 2 ? 1.0 : 2.0),
            };
            $w[] = $random->getInt(1, 8) / 4;
        }

        return new Task(
            Table::of(array_map(
                static fn (array $cells) => \is_string($cells[0]) ? CodedColumn::fromCells(array_map(strval(...), $cells)) : new NumberColumn(array_map(floatval(...), $cells)),
                $columns,
            )),
            self::INPUTS,
            $y,
            range(0, $rows - 1),
            $w,
            $classes,
        );
    }

    /** @return iterable<string, array{string, int}> */
    public static function draws(): iterable
    {
        foreach (array_keys(self::TASKS) as $task) {
            foreach ([3, 4, 5] as $seed) {
                yield $task.' '.$seed => [$task, $seed];
            }
        }
    }

    #[DataProvider('draws')]
    public function testTheFirstOfEachSizeAreThoseThatLeaveLeast(string $kind, int $seed): void
    {
        $task = self::task(self::TASKS[$kind], $seed);
        $coding = $task->coding($task->rows);
        $price = 3.0;
        $unit = $price * (null === $task->classes ? self::variance($task, $coding) : 1.0);
        $terms = array_count_values(array_map(static fn (Term $t): string => $t->column, $coding->terms));
        $bySize = [];
        for ($bits = 0; $bits < 1 << \count(self::INPUTS); ++$bits) {
            $own = array_values(array_filter(self::INPUTS, static fn (int $j): bool => 1 === ($bits >> $j & 1), \ARRAY_FILTER_USE_KEY));
            $bySize[\count($own)][implode(',', $own)] = self::score($task, $coding, $own) - $unit * array_sum(array_intersect_key($terms, array_flip($own)));
        }
        foreach (Screen::of($coding, $task, $task->rows, 3, $price) as $size => $found) {
            arsort($bySize[$size]);
            self::assertSame(
                \array_slice(array_keys($bySize[$size]), 0, 3),
                array_map(static fn (array $columns): string => implode(',', $columns), $found),
                $size.' columns',
            );
        }
    }

    /** Of the residuals of all columns. */
    private static function variance(Task $task, Coding $coding): float
    {
        $model = Learners::make('linear')->fit($task);
        self::assertInstanceOf(LinearModel::class, $model);

        return $model->figures->rss / (array_sum($task->weights ?? []) - \count($coding->terms) - 1);
    }

    /**
     * The score statistic of the model without columns, written out: U' I⁻¹ U with U = Σ w x (y − p) and the information of the constant
     * model; of a number what least squares explain.
     *
     * @param list<string> $columns
     */
    private static function score(Task $task, Coding $coding, array $columns): float
    {
        $matrix = $coding->matrix($task->table, $task->rows);
        $weights = $task->weights ?? [];
        $n = array_sum($weights);
        $x = [];
        foreach ($coding->terms as $t => $term) {
            if (\in_array($term->column, $columns, true)) {
                $values = array_merge(...array_map(
                    static fn (array $block): array => $block[$t + 1],
                    iterator_to_array($matrix->blocks()),
                ));
                $mean = array_sum(array_map(static fn (float $v, float $w): float => $v * $w, $values, $weights)) / $n;
                $x[] = array_map(static fn (float $v): float => $v - $mean, $values);
            }
        }
        if ([] === $x) {
            return 0.0;
        }
        $marks = null === $task->classes ? [$task->outcome] : array_map(
            static fn (int $k): array => array_map(static fn (float $y): float => (float) ((int) $y === $k), $task->outcome),
            array_keys(\array_slice($task->classes, 1, null, true)),
        );
        $share = array_map(
            static fn (array $m): float => array_sum(array_map(static fn (float $v, float $w): float => $v * $w, $m, $weights)) / $n,
            $marks,
        );
        $u = $information = [];
        foreach ($marks as $k => $m) {
            foreach ($x as $i => $own) {
                $u[] = array_sum(array_map(
                    static fn (float $v, float $y, float $w): float => $w * $v * ($y - $share[$k]),
                    $own,
                    $m,
                    $weights,
                ));
                $row = [];
                foreach (array_keys($marks) as $l) {
                    foreach ($x as $other) {
                        $cross = array_sum(array_map(
                            static fn (float $v, float $z, float $w): float => $w * $v * $z,
                            $own,
                            $other,
                            $weights,
                        ));
                        $row[] = $cross * (null === $task->classes ? 1.0 : ($k === $l ? $share[$k] : 0.0) - $share[$k] * $share[$l]);
                    }
                }
                $information[] = $row;
            }
        }

        return array_sum(array_map(static fn (float $a, float $b): float => $a * $b, Cholesky::of($information)->solve($u), $u));
    }

    /** @return iterable<string, array{string, string}> */
    public static function learners(): iterable
    {
        foreach (['AIC', 'BIC', 'error on held rows'] as $by) {
            yield 'linear by '.$by => ['linear', $by];
            yield 'logistic by '.$by => ['logistic', $by];
            yield 'multinomial by '.$by => ['multinomial', $by];
        }
    }

    #[DataProvider('learners')]
    public function testALearnerTakesTheBestSizeAndKeepsWhatWasWeighed(string $learner, string $by): void
    {
        $task = self::task(
            self::TASKS[['linear' => 'number', 'logistic' => 'two classes', 'multinomial' => 'several classes'][$learner]],
            8,
        );
        $model = Learners::make($learner, ['selection' => 'best subsets', 'compare' => $by])->fit($task);
        self::assertTrue($model instanceof LinearModel || $model instanceof LogisticModel || $model instanceof MultinomialModel);
        $trace = $model->trace;
        self::assertSame([...array_fill(0, 6, 'best of size'), 'choose'], array_column($trace, 'action'));
        $key = 'error on held rows' === $by ? 'error' : 'aic';
        self::assertSame(min([\INF, ...array_column($trace, $key)]), $trace[6][$key]);
        self::assertSame($trace[6]['model'], $model->columns());
        self::assertContains('b', $model->columns());
        self::assertStringContainsString('Chosen among the best subsets of each size: ', implode(' ', $model->notes()));
        foreach ($trace as $step) {
            self::assertIsArray($step['losses']);
            self::assertSame('linear' === $learner, isset($step['cp'], $step['rss']));
        }
        if ('error' !== $key) {
            self::assertSame($model->columns(), self::leastOfAll($learner, $task, $by));
        }
        self::assertCount(1, Learners::make($learner, ['selection' => 'best subsets', 'columns' => 1])->fit($task)->columns());
    }

    /** @return list<string> the subset of least AIC or BIC when every one is fitted */
    private static function leastOfAll(string $learner, Task $task, string $by): array
    {
        $best = [null, \INF];
        for ($bits = 0; $bits < 1 << \count(self::INPUTS); ++$bits) {
            $own = array_values(array_filter(self::INPUTS, static fn (int $j): bool => 1 === ($bits >> $j & 1), \ARRAY_FILTER_USE_KEY));
            $model = Learners::make($learner)->fit(new Task(
                $task->table,
                $own,
                $task->outcome,
                $task->rows,
                $task->weights,
                $task->classes,
            ));
            $parameters = match (true) {
                $model instanceof LinearModel => $model->figures->parameters,
                $model instanceof LogisticModel => $model->figures->parameters,
                default => $model instanceof MultinomialModel ? $model->candidate()->parameters : 0,
            };
            $lost = match (true) {
                $model instanceof LinearModel => 160 * log($model->figures->rss / 160),
                $model instanceof LogisticModel => -2 * $model->figures->logLikelihood,
                default => $model instanceof MultinomialModel ? -2 * $model->candidate()->logLikelihood : \INF,
            };
            $value = $lost + $parameters * ('AIC' === $by ? 2 : log('linear' === $learner ? 160 : array_sum($task->weights ?? [])));
            $best = $value < $best[1] ? [$own, $value] : $best;
        }

        return $best[0] ?? [];
    }

    public function testMoreColumnsThanCanBeComparedAreRefused(): void
    {
        $random = new Randomizer(new Mt19937(1));
        $columns = [];
        for ($j = 0; $j <= Screen::MOST; ++$j) {
            $columns['c'.$j] = new NumberColumn(array_map(static fn (): float => $random->getInt(0, 1000) / 1000, range(0, 59)));
        }
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage('up to 20 columns; these are 21');
        Learners::make(
            'linear',
            ['selection' => 'best subsets'],
        )->fit(new Task(Table::of($columns), array_keys($columns), array_map(static fn (): float => $random->getInt(0, 1000) / 1000, range(0, 59)), range(0, 59), null, null));
    }

    #[DataProvider('learners')]
    public function testAConstantColumnIsNamedThoughOthersWereChosen(string $learner, string $by): void
    {
        $task = self::task(
            self::TASKS[['linear' => 'number', 'logistic' => 'two classes', 'multinomial' => 'several classes'][$learner]],
            8,
        );
        $table = $task->table->with('same', new NumberColumn(array_fill(0, 160, 4.0)));
        foreach ([['selection' => 'best subsets', 'compare' => $by], ['selection' => 'forward', 'by' => $by]] as $settings) {
            $model = Learners::make($learner, $settings)->fit(new Task(
                $table,
                [...self::INPUTS, 'same'],
                $task->outcome,
                $task->rows,
                $task->weights,
                $task->classes,
            ));
            self::assertNotContains('same', $model->columns());
            self::assertStringContainsString('same is not used: the same value in every training row', implode(' ', $model->notes()));
        }
    }

    public function testWhatRepeatsAnotherColumnIsNoCandidate(): void
    {
        $task = self::task(null, 3);
        $again = new Task(
            $task->table->with('again', $task->table->column('a')),
            [...self::INPUTS, 'again'],
            $task->outcome,
            $task->rows,
            null,
            null,
        );
        $sizes = Screen::of($again->coding($again->rows), $again, $again->rows, 1, 2.0);
        self::assertCount(6, $sizes);
        self::assertNotContains('again', array_merge(...array_merge(...$sizes)));
    }
}
