<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Guide;

use Dokimos\Core\Guide\Cells;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** What is left over is laid into cells: found where it follows them, and only there. */
final class CellsTest extends TestCase
{
    private const ROWS = 1200;

    private static function random(int $seed): Randomizer
    {
        return new Randomizer(new Mt19937($seed));
    }

    private static function normal(Randomizer $random): float
    {
        $sum = 0.0;
        for ($k = 0; $k < 12; ++$k) {
            $sum += $random->getInt(0, 1_000_000) / 1_000_000;
        }

        return $sum - 6.0;
    }

    /**
     * Of a number and of a category.
     *
     * @return list<array{codes: list<int>, width: int, edges: list<float>, levels: list<string>}>
     */
    private static function pair(int $seed): array
    {
        $random = self::random($seed);
        $number = new NumberColumn(array_map(static fn (): float => (float) $random->getInt(0, 5000), range(1, self::ROWS)));
        $coded = CodedColumn::fromCells(array_map(
            static fn (): string => ['a', 'b', 'c', 'd'][$random->getInt(0, 3)],
            range(1, self::ROWS),
        ));
        $cells = [Cells::of($number, range(0, self::ROWS - 1)), Cells::of($coded, range(0, self::ROWS - 1))];
        self::assertNotNull($cells[0]);
        self::assertNotNull($cells[1]);

        return [$cells[0], $cells[1]];
    }

    public function testEachRowHasOneCellAndMissingOnesTheirOwn(): void
    {
        $values = [...array_map(floatval(...), range(1, 300)), \NAN, \NAN];
        $cells = Cells::of(new NumberColumn($values), range(0, 301));
        self::assertNotNull($cells);
        self::assertCount(302, $cells['codes']);
        self::assertSame(range(0, \count($cells['edges'])), array_values(array_unique(\array_slice($cells['codes'], 0, 300))), 'rising');
        self::assertSame([\count($cells['edges']) + 1, \count($cells['edges']) + 1], \array_slice($cells['codes'], 300));
        foreach ($cells['codes'] as $row => $code) {
            self::assertLessThan($cells['width'], $code);
            if ($row < 300) {
                self::assertTrue($values[$row] > ($cells['edges'][$code - 1] ?? -\INF));
                self::assertTrue($values[$row] <= ($cells['edges'][$code] ?? \INF));
            }
        }
        $sizes = array_count_values(\array_slice($cells['codes'], 0, 300));
        self::assertLessThan(2.5, max($sizes) / min($sizes), 'about as many in each');
    }

    public function testOfACategoryTheMostFrequentValuesStandAloneAndTheRestTogether(): void
    {
        $cells = [];
        for ($k = 0; $k < 20; ++$k) {
            array_push($cells, ...array_fill(0, 40 - $k, 'v'.$k));
        }
        $own = Cells::of(CodedColumn::fromCells($cells), array_keys($cells));
        self::assertNotNull($own);
        self::assertSame(13, $own['width']);
        self::assertSame(0, $own['codes'][0]);
        self::assertSame(12, $own['codes'][\count($cells) - 1]);
        self::assertSame(
            array_sum(array_map(static fn (int $k): int => 40 - $k, range(12, 19))),
            \count(array_keys($own['codes'], 12, true)),
        );
        self::assertNull(Cells::of(new TextColumn(['free', 'text']), [0, 1]), 'no cells of a text');
        self::assertNull(Cells::of(new NumberColumn(range(1.0, 19.0)), range(0, 18)), 'nor of a handful of numbers');
    }

    /** @return iterable<string, array{float, float}> shift and unit of what is left over */
    public static function units(): iterable
    {
        yield 'as it is' => [0.0, 1.0];
        yield 'shifted' => [3.0, 1.0];
        yield 'in other units' => [0.0, 250.0];
        yield 'both, turned' => [-7.0, -0.02];
    }

    /** A shift belongs to the mean, and a unit to the spread: neither is a pattern. */
    #[DataProvider('units')]
    public function testNeitherAShiftNorAUnitIsAPattern(float $shift, float $unit): void
    {
        [$a, $b] = self::pair(1);
        $random = self::random(2);
        $residual = array_map(
            static fn (int $i): float => self::normal($random) + (0 === $b['codes'][$i] && $a['codes'][$i] > 2 ? 0.8 : 0.0),
            range(0, self::ROWS - 1),
        );
        $moved = array_map(static fn (float $r): float => $shift + $unit * $r, $residual);
        self::assertEqualsWithDelta(Cells::together($a, $b, $residual), Cells::together($a, $b, $moved), 1e-6);
        self::assertEqualsWithDelta(Cells::alone($a, $residual), Cells::alone($a, $moved), 1e-6);
        self::assertGreaterThan(3.0, Cells::together($a, $b, $residual));
    }

    public function testNoiseAloneIsAboutNothingInStandardErrors(): void
    {
        $alone = $together = $follows = [];
        for ($seed = 1; $seed <= 60; ++$seed) {
            [$a, $b] = self::pair(1);
            $random = self::random(100 + $seed);
            $residual = array_map(static fn (): float => self::normal($random), range(1, self::ROWS));
            $values = array_map(static fn (): float => (float) $random->getInt(0, 999), range(1, self::ROWS));
            $alone[] = Cells::alone($a, $residual);
            $together[] = Cells::together($a, $b, $residual);
            $follows[] = Cells::follows($values, $residual, $a, $b);
        }
        foreach ([$alone, $together, $follows] as $z) {
            $mean = array_sum($z) / 60;
            self::assertEqualsWithDelta(0.0, $mean, 0.45, 'four standard errors of a mean of 60');
            $spread = sqrt(array_sum(array_map(static fn (float $v): float => ($v - $mean) ** 2, $z)) / 59);
            self::assertEqualsWithDelta(1.0, $spread, 0.4);
        }
    }

    public function testEachKindOfPatternIsFoundByItsOwnQuestion(): void
    {
        [$a, $b] = self::pair(3);
        $random = self::random(4);
        $noise = array_map(static fn (): float => self::normal($random), range(1, self::ROWS));
        $with = static fn (\Closure $of): array => array_map(
            static fn (float $r, int $i): float => $r + $of($i),
            $noise,
            array_keys($noise),
        );
        // By one column alone: seen alone, and nothing acts together.
        $one = $with(static fn (int $i): float => 0.5 * $a['codes'][$i]);
        self::assertGreaterThan(20.0, Cells::alone($a, $one));
        self::assertLessThan(3.5, Cells::together($a, $b, $one));
        // By both, each for itself: nothing acts together either.
        $both = $with(static fn (int $i): float => 0.5 * $a['codes'][$i] + 0.7 * $b['codes'][$i]);
        self::assertLessThan(3.5, Cells::together($a, $b, $both));
        // By both together only.
        $crossed = $with(static fn (int $i): float => ($a['codes'][$i] % 2 === $b['codes'][$i] % 2) ? 1.0 : -1.0);
        self::assertGreaterThan(20.0, Cells::together($a, $b, $crossed));
        // By a number that neither column tells.
        $made = array_map(static fn (): float => $random->getInt(0, 1000) / 1000, range(1, self::ROWS));
        $follows = $with(static fn (int $i): float => 2.0 * $made[$i]);
        self::assertGreaterThan(10.0, Cells::follows($made, $follows, $a, $b));
        // What both columns say by themselves is no reason for a made one.
        $code = array_map(static fn (int $c): float => (float) $c, $a['codes']);
        self::assertLessThan(3.5, Cells::follows($code, $one, $a, $b));
        self::assertSame(-\INF, Cells::follows(array_fill(0, self::ROWS, \NAN), $noise, $a, $b), 'nothing is known of it');
        self::assertSame(Cells::alone($a, $one), Cells::most([$noise, $one], static fn (array $r): float => Cells::alone($a, $r)));
    }
}
