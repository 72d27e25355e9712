<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Reading;
use Dokimos\Core\Explain\Step;
use Dokimos\Core\Explain\Steps;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What an effect is told for. */
final class StepsTest extends TestCase
{
    /** @return iterable<string, array{list<float>, float}> */
    public static function spreads(): iterable
    {
        yield 'prices about 4,000 apart' => [[0.0, 8000.0, 2000.5, 6000.0], 5000.0];
        yield 'yes and no as numbers' => [[0.0, 1.0, 0.0, 1.0], 1.0];
        yield 'whole numbers hardly apart' => [[5.0, 5.0, 5.0, 6.0], 1.0];
        yield 'small shares' => [[0.001, 0.003, 0.0021, 0.0004], 0.001];
        yield 'what overflows when squared' => [[1e200, 3e200, 1.0], 2e200];
        yield 'with missing and overflown cells' => [[10.0, \NAN, 30.5, \INF, 50.0], 20.0];
        yield 'negative and positive' => [[-100.0, 100.0, -120.5, 90.0], 100.0];
    }

    /** @param list<float> $values */
    #[DataProvider('spreads')]
    public function testAStepIsTheRoundNumberNearestToTheSpread(array $values, float $step): void
    {
        $table = Table::of(['x' => new NumberColumn($values)]);
        $rows = array_keys($values);
        self::assertEqualsWithDelta(
            $step,
            Steps::of(Coding::learn($table, ['x'], $rows), $table, $rows, $table)['x']->units,
            1e-12 * $step,
        );
    }

    public function testDatesStepInDaysAndValuesAreToldAgainstTheOneWithoutATerm(): void
    {
        $table = Table::of([
            'day' => new DateColumn(array_map(static fn (int $d): int => $d * DateColumn::DAY, [0, 100, 200, 300, 400, 350])),
            'make' => CodedColumn::fromCells(['Aldo', 'Brunt', 'Corin', 'Aldo', 'Brunt', 'Corin']),
            'gone' => new NumberColumn([1.0, 2.0, 3.0, 4.0, 5.0, 6.0]),
        ]);
        $coding = Coding::learn($table, ['day', 'make', 'gone'], range(0, 5));
        self::assertEquals(
            ['day' => Step::plain(200.0)],
            Steps::of($coding, Table::of(['day' => $table->column('day')]), range(0, 5), $table),
        );
        self::assertSame(['make=Brunt' => 'Aldo', 'make=Corin' => 'Aldo'], Steps::against($coding));
        self::assertSame(
            [],
            Steps::against(Coding::learn($table, ['make'], range(0, 5), reading: new Reading(otherwise: ['make' => Reading::EACH]))),
        );
        self::assertSame(
            [],
            Steps::against(Coding::learn($table, ['make'], range(0, 5), reading: new Reading(otherwise: ['make' => Reading::ORDERED]))),
        );
    }

    /** @return iterable<string, array{callable(float): float, float, float, bool}> how it was prepared; step in the model's units, as told, changed */
    public static function prepared(): iterable
    {
        yield 'as it came' => [static fn (float $v): float => $v, 20.0, 20.0, false];
        yield 'standardized' => [static fn (float $v): float => ($v - 31.3) / 25.0, 20.0 / 25.0, 20.0, false];
        yield 'shifted' => [static fn (float $v): float => $v - 31.3, 20.0, 20.0, false];
        yield 'capped' => [static fn (float $v): float => min($v, 60.0), 20.0, 20.0, false];
        yield 'by its logarithm' => [static fn (float $v): float => log(1 + $v), 1.0, 1.0, true];
        yield 'turned around' => [static fn (float $v): float => -$v / 25.0, 1.0, 1.0, true];
    }

    /** @param callable(float): float $how */
    #[DataProvider('prepared')]
    public function testARescaledColumnIsToldInItsOwnUnits(callable $how, float $units, float $told, bool $changed): void
    {
        $came = array_map(static fn (int $i): float => (float) ($i * 37 % 71), range(0, 70));
        $raw = Table::of(['x' => new NumberColumn([...$came, \NAN])]);
        $prepared = Table::of(['x' => new NumberColumn([...array_map($how, $came), $how(10.0)])]);
        $rows = range(0, 71);
        $step = Steps::of(Coding::learn($prepared, ['x'], $rows), $prepared, $rows, $raw)['x'];
        self::assertEqualsWithDelta([$units, $told], [$step->units, $step->told], 1e-9);
        self::assertSame($changed, $step->changed);
    }
}
