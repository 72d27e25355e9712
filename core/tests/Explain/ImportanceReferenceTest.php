<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\PartialDependence;
use Dokimos\Core\Explain\PermutationImportance;
use Dokimos\Core\Learn\Linear\LinearRegression;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\TestCase;

/** Curves and importance of a known function, against the reference. */
final class ImportanceReferenceTest extends TestCase
{
    private const COLUMNS = ['x1', 'x2', 'x3', 'x4', 'x5'];

    /** @return list<float> f = 0.5 + 2 x1 + x1 x2 - 3 max(x3, 0) + exp(-x4²) x5 + 0.25 x2² */
    private static function known(Table $table): array
    {
        [$a, $b, $c, $d, $e] = array_map(static fn (string $name) => $table->number($name)->values, self::COLUMNS);

        return array_map(
            static fn (int $i): float => 0.5 + 2 * $a[$i] + $a[$i] * $b[$i] - 3 * max($c[$i], 0.0) + exp(-$d[$i] ** 2) * $e[$i] + 0.25 * $b[$i] ** 2,
            array_keys($a),
        );
    }

    private static function table(string $file): Table
    {
        return Files::table(Files::folder('shapley').'/'.$file);
    }

    public function testPartialDependenceAndSingleCurves(): void
    {
        /** @var array{grid: list<float>, partial_dependence: array<string, array{partial_dependence: list<float>, ice_first_5_background_rows: list<list<float>>}>, partial_dependence_x1_x2: list<list<float>>} $want */
        $want = Files::expected('shapley');
        $background = self::table('background.csv');
        $f = self::known(...);
        foreach ($want['partial_dependence'] as $column => $own) {
            $got = PartialDependence::of($f, $background, $column, $want['grid'], range(0, 4));
            self::assertEqualsWithDelta($own['partial_dependence'], $got->mean, 1e-10, $column);
            self::assertEqualsWithDelta($own['ice_first_5_background_rows'], $got->rows, 1e-10, $column);
        }
        self::assertEqualsWithDelta(
            $want['partial_dependence_x1_x2'],
            PartialDependence::ofTwo($f, $background, 'x1', $want['grid'], 'x2', $want['grid']),
            1e-10,
        );
    }

    public function testDrawnPermutationsApproachTheExpectationOverAllPairs(): void
    {
        /** @var array{permutation_importance: array{base_mse: float, columns: list<array{column: string, importance: float}>}} $want */
        $want = Files::expected('shapley');
        $table = self::table('importance.csv');
        $y = $table->number('y')->values;
        $mse = static fn (Answers $answers): float => array_sum(array_map(
            static fn (float $truth, float $p): float => ($truth - $p) ** 2,
            $y,
            $answers->values,
        )) / \count($y);
        self::assertEqualsWithDelta($want['permutation_importance']['base_mse'], $mse(new Answers(self::known($table))), 1e-10);
        foreach ($want['permutation_importance']['columns'] as $line) {
            $drawn = PermutationImportance::of(
                static fn (Table $t): Answers => new Answers(self::known($t)),
                $mse,
                $table,
                [$line['column']],
                1500,
                3,
            )[$line['column']];
            $mean = array_sum($drawn) / 1500;
            $error = sqrt(array_sum(array_map(static fn (float $d): float => ($d - $mean) ** 2, $drawn)) / 1499 / 1500);
            self::assertEqualsWithDelta($line['importance'], $mean, 4 * $error, $line['column']);
        }
    }

    public function testTheSurrogateIsLeastSquaresOnItsAnswers(): void
    {
        /** @var array{surrogate: array{intercept: float, coefficients: array<string, float>, r2: float}} $want */
        $want = Files::expected('shapley');
        $background = self::table('background.csv');
        $model = (new LinearRegression())->fit(new Task(
            $background,
            self::COLUMNS,
            self::known($background),
            range(0, $background->rows - 1),
            null,
            null,
        ));
        self::assertEqualsWithDelta(
            [$want['surrogate']['intercept'], ...array_values($want['surrogate']['coefficients'])],
            $model->estimates,
            1e-10,
        );
        self::assertEqualsWithDelta($want['surrogate']['r2'], (float) $model->figures->r2(), 1e-10);
    }

    public function testEveryKindOfColumnHasAGrid(): void
    {
        $table = Table::of([
            'n' => new NumberColumn([1.0, 2.0, 2.0, \NAN, 9.0]),
            'd' => new DateColumn([0, 86400, 86400 * 3, DateColumn::MISSING, 0]),
            'g' => CodedColumn::fromCells(['b', 'a', 'b', null, 'c']),
        ]);
        self::assertSame([1.0, 2.0, 9.0], PartialDependence::grid($table->column('n')));
        self::assertSame([0.0, 1.0, 3.0], PartialDependence::grid($table->column('d')));
        self::assertSame('b', PartialDependence::grid($table->column('g'))[0]);
        $model = Learners::make(
            'tree',
            ['leaf' => 1, 'divide' => 2, 'judged' => 0.0],
        )->fit(new Task($table, ['n', 'd', 'g'], [0.0, 1.0, 1.0, 0.0, 1.0], [0, 1, 2, 4]));
        foreach (['n', 'd', 'g'] as $name) {
            $got = PartialDependence::of(
                static fn (Table $t): array => $model->predict($t),
                $table,
                $name,
                PartialDependence::grid($table->column($name)),
            );
            self::assertCount(3, $got->mean);
        }
        self::assertSame(
            [],
            PermutationImportance::of(
                static fn (Table $t): Answers => new Answers([]),
                static fn (Answers $a): ?float => null,
                $table,
                ['n'],
                2,
                1,
            ),
        );
    }
}
