<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Picture;

use Dokimos\Core\Picture\StandsApart;
use Dokimos\Core\Picture\TwoColumns;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Periods begin where a calendar says, hold every record once, and know the years before 1970. */
final class OverTimeTest extends TestCase
{
    /** @return iterable<string, array{string, string, int, string}> first day, last day, days between records, period */
    public static function stretches(): iterable
    {
        yield 'a month of days' => ['2026-02-10', '2026-03-12', 1, 'day'];
        yield 'half a year of weeks, over a new year' => ['2025-10-02', '2026-03-20', 3, 'week'];
        yield 'two years of months, with a leap day' => ['2023-06-15', '2025-05-30', 5, 'month'];
        yield 'eight years of quarters' => ['2018-02-01', '2025-12-31', 11, 'quarter'];
        yield 'thirty years' => ['1996-05-05', '2026-05-05', 40, 'year'];
        yield 'before 1970' => ['1931-03-09', '1931-04-08', 1, 'day'];
        yield 'weeks before 1970' => ['1948-11-03', '1949-04-20', 2, 'week'];
        yield 'across 1970' => ['1969-02-14', '1971-02-14', 6, 'month'];
        yield 'years before 1970' => ['1890-01-01', '1968-12-31', 90, 'year'];
    }

    private static function second(string $day): int
    {
        return (int) (new \DateTimeImmutable($day, new \DateTimeZone('UTC')))->getTimestamp();
    }

    /** @return list<array<string, mixed>> */
    private static function drawn(DateColumn $when, Column $what): array
    {
        $table = Table::of(['when' => $when, 'what' => $what]);

        return TwoColumns::of($table, 'when', 'what', array_fill(0, $table->rows, \NAN))->parts;
    }

    #[DataProvider('stretches')]
    public function testEachRecordStandsInTheOnePeriodOfTheCalendar(string $first, string $last, int $apart, string $period): void
    {
        $seconds = $values = [];
        for ($s = self::second($first); $s <= self::second($last); $s += $apart * DateColumn::DAY) {
            $seconds[] = $s;
            $values[] = (float) (\count($values) % 7);
        }
        // A time of day belongs to its day; a date that is missing to none.
        $seconds = array_map(static fn (int $s, int $i): int => 1 === $i ? $s + 86399 : $s, $seconds, array_keys($seconds));
        $seconds[] = DateColumn::MISSING;
        $values[] = 100.0;
        $parts = self::drawn(new DateColumn($seconds), new NumberColumn($values));
        $format = ['day' => 'Y-m-d', 'week' => 'o-W', 'month' => 'Y-m', 'year' => 'Y'][$period] ?? null;
        $name = static fn (int $s): string => null !== $format
            ? gmdate($format, $s)
            : gmdate('Y-', $s).intdiv((int) gmdate('n', $s) - 1, 3);
        $wanted = [];
        foreach ($seconds as $i => $s) {
            if (DateColumn::MISSING !== $s) {
                $wanted[$name($s)][] = $values[$i];
            }
        }
        self::assertSame(\count($seconds) - 1, array_sum(array_column($parts, 'records')));
        self::assertSame(array_map(\count(...), array_values($wanted)), array_column($parts, 'records'));
        $before = null;
        foreach ($parts as $k => $part) {
            self::assertSame($period, $part['period']);
            [$from, $to] = [self::second((string) $part['from']), self::second((string) $part['to'])];
            self::assertSame((string) array_keys($wanted)[$k], $name($from), 'it begins in its own period');
            self::assertSame($name($from), $name($to), 'and ends in it');
            self::assertNotSame($name($from), $name($from - 1), 'with its first day');
            self::assertNotSame($name($to), $name($to + DateColumn::DAY), 'and its last');
            self::assertTrue(null === $before || $before < $from);
            $before = $to;
            $own = array_values($wanted)[$k];
            self::assertEqualsWithDelta(array_sum($own) / \count($own), $part['value'], 1e-12);
        }
    }

    public function testOfACategoryEachPeriodHasTheShareOfEachValue(): void
    {
        $seconds = $cells = [];
        for ($i = 0; $i < 120; ++$i) {
            $seconds[] = self::second('2026-01-01') + $i * 6 * 3600;
            $cells[] = ['gas', 'oil', 'gas', 'wood'][$i % 4];
        }
        $parts = self::drawn(new DateColumn($seconds), CodedColumn::fromCells($cells));
        $sums = [];
        foreach ($parts as $part) {
            $sums[$part['from']] = ($sums[$part['from']] ?? 0.0) + $part['value'];
            self::assertEqualsWithDelta('gas' === $part['of'] ? 0.5 : 0.25, $part['value'], 1e-12);
            self::assertTrue($part['valueLow'] < $part['value'] && $part['value'] < $part['valueHigh']);
        }
        self::assertCount(30, $sums);
        foreach ($sums as $sum) {
            self::assertEqualsWithDelta(1.0, $sum, 1e-12);
        }
        // Of yes and no one line says both, the yes.
        $yes = CodedColumn::fromCells(array_map(static fn (int $i): string => 0 === $i % 4 ? 'yes' : 'no', range(0, 119)), Kind::YesNo);
        $parts = self::drawn(new DateColumn($seconds), $yes);
        self::assertSame(['yes'], array_values(array_unique(array_column($parts, 'of'))));
        self::assertEqualsWithDelta(0.25, $parts[3]['value'], 1e-12);
    }

    public function testWhatStandsApartComesFarthestFirst(): void
    {
        $far = [7 => -90.0, 30 => 55.0, 31 => 150.0, 60 => 55.0];
        $values = array_map(static fn (int $i): float => $far[$i] ?? 10.0 + $i % 5, range(0, 99));
        $column = StandsApart::of(Table::of(['km' => new NumberColumn($values)]))->columns[0];
        // From the median, 12: 138 above, 102 below, 43 twice; of equal ones the earlier record.
        self::assertSame([31, 7, 30, 60], array_column($column['apart'], 'row'));
        self::assertSame([1, 3], [$column['below'], $column['above']]);
        self::assertSame([-90.0, 150.0], [$column['least'], $column['most']]);
        self::assertSame([10.0, 14.0], [$column['low'], $column['high']], 'whiskers reach to the last values inside the fences');
        self::assertEqualsWithDelta(138 / 1.482602218505602, $column['largestZ'], 1e-9);
        self::assertEqualsWithDelta(-102 / 1.482602218505602, $column['apart'][1]['z'], 1e-9);
    }
}
