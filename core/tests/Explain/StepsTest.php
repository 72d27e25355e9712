<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Reading;
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
        self::assertEqualsWithDelta(['x' => $step], Steps::of(Coding::learn($table, ['x'], $rows), $table, $rows), 1e-12 * $step);
    }

    public function testDatesStepInDaysAndValuesAreToldAgainstTheOneWithoutATerm(): void
    {
        $table = Table::of([
            'day' => new DateColumn(array_map(static fn (int $d): int => $d * DateColumn::DAY, [0, 100, 200, 300, 400, 350])),
            'make' => CodedColumn::fromCells(['Aldo', 'Brunt', 'Corin', 'Aldo', 'Brunt', 'Corin']),
            'gone' => new NumberColumn([1.0, 2.0, 3.0, 4.0, 5.0, 6.0]),
        ]);
        $coding = Coding::learn($table, ['day', 'make', 'gone'], range(0, 5));
        self::assertSame(['day' => 200.0], Steps::of($coding, Table::of(['day' => $table->column('day')]), range(0, 5)));
        self::assertSame(['make=Brunt' => 'Aldo', 'make=Corin' => 'Aldo'], Steps::against($coding));
        self::assertSame([], Steps::against(Coding::learn($table, ['make'], range(0, 5), reading: new Reading(otherwise: ['make' => Reading::EACH]))));
        self::assertSame([], Steps::against(Coding::learn($table, ['make'], range(0, 5), reading: new Reading(otherwise: ['make' => Reading::ORDERED]))));
    }
}
