<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Design;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\TargetMeans;
use Dokimos\Core\Learn\Linear\LinearRegression;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Categories of many values, and missing values, as regressions read them. */
final class TargetMeansTest extends TestCase
{
    public function testATrainingRowNeverMeetsItsOwnOutcome(): void
    {
        $column = CodedColumn::fromCells(array_map(static fn (int $i): ?string => 0 === $i % 11 ? null : 'v'.$i % 9, range(0, 199)));
        $y = array_map(static fn (int $i): float => (float) ($i * 37 % 23), range(0, 199));
        $before = TargetMeans::learn($column, range(0, 199), [$y], null)->whereLearned([50], 0)[0];
        $y[50] = 1e6;
        $changed = TargetMeans::learn($column, range(0, 199), [array_values($y)], null);
        self::assertSame($before, $changed->whereLearned([50], 0)[0]);
        self::assertNotSame($before, $changed->byCode($column, 0)[$column->codes[50]]);
    }

    public function testFewRowsAreDrawnToTheMeanOfAll(): void
    {
        $column = CodedColumn::fromCells([...array_fill(0, 80, 'often'), ...array_fill(0, 20, 'seldom')]);
        $y = [...array_fill(0, 80, 1.0), ...array_fill(0, 20, 6.0)];
        $means = TargetMeans::learn($column, range(0, 99), [$y], null);
        self::assertSame([2.0], $means->overall);
        self::assertEqualsWithDelta([(80 * 1.0 + 20 * 2.0) / 100], $means->byLevel['often'], 1e-12);
        self::assertEqualsWithDelta([(20 * 6.0 + 20 * 2.0) / 40], $means->byLevel['seldom'], 1e-12);
        self::assertSame(2.0, $means->byCode(CodedColumn::fromCells(['new']), 0)[0], 'a value never seen');
        $weighted = TargetMeans::learn($column, range(0, 99), [$y], array_fill(0, 100, 3.0));
        self::assertEqualsWithDelta((60 * 6.0 + 20 * 2.0) / 80, $weighted->byLevel['seldom'][0], 1e-12);
    }

    /** Pure noise in a category of many values: means that held a row's own outcome would claim to know it. */
    public function testNoiseIsNotTakenForKnowledge(): void
    {
        $random = new Randomizer(new Mt19937(3));
        $cells = $y = $x = [];
        for ($i = 0; $i < 1500; ++$i) {
            $cells[] = 'v'.$random->getInt(0, 299);
            $x[] = (float) $random->getInt(0, 100);
            $y[] = (float) $random->getInt(0, 1000);
        }
        $table = Table::of(['many' => CodedColumn::fromCells($cells), 'x' => new NumberColumn($x)]);
        $model = (new LinearRegression())->fit(new Task($table, ['many', 'x'], $y, range(0, 1499), null, null));
        self::assertSame(['(intercept)', 'many (mean outcome)', 'x'], $model->names);
        self::assertGreaterThan(0.001, $model->coefficients()[1]['p']);
    }

    public function testMissingValuesAreFilledAndMarked(): void
    {
        $x = array_map(static fn (int $i): float => 0 === $i % 4 ? \NAN : (float) ($i % 10), range(0, 99));
        $g = array_map(static fn (int $i): ?string => 0 === $i % 5 ? null : ['a', 'b'][$i % 2], range(0, 99));
        $y = array_map(
            static fn (int $i): float => (is_nan($x[$i]) ? 20.0 : 3 * $x[$i]) + (null === $g[$i] ? 7.0 : ('b' === $g[$i] ? 1.0 : 0.0)),
            range(0, 99),
        );
        $table = Table::of(['x' => new NumberColumn($x), 'g' => CodedColumn::fromCells($g)]);
        $model = (new LinearRegression(['missing' => Coding::MARK]))->fit(new Task($table, ['x', 'g'], $y, range(0, 99), null, null));
        self::assertSame(['(intercept)', 'x', 'x (missing)', 'g=b', 'g (missing)'], $model->names);
        foreach ($model->predict($table) as $i => $p) {
            self::assertEqualsWithDelta($y[$i], $p, 1e-8);
        }
        // A value missing where training had them all is filled without a mark.
        $whole = (new LinearRegression(['missing' => Coding::MARK]))->fit(new Task(
            $table,
            ['x'],
            $y,
            array_values(array_filter(range(0, 99), static fn (int $i) => 0 !== $i % 4)),
            null,
            null,
        ));
        self::assertSame(['(intercept)', 'x'], $whole->names);
        self::assertFalse(is_nan($whole->predict($table, [0])[0]));
        self::assertNan((new LinearRegression())->fit(new Task($table, ['x'], $y, range(0, 99), null, null))->predict($table, [0])[0]);
    }
}
