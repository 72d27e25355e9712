<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Combine;

use Dokimos\Core\Combine\CannotCombine;
use Dokimos\Core\Combine\Gather;
use Dokimos\Core\Combine\KnownCombinations;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Records gathered by a key against plain counting, record by record. */
final class GatherTest extends TestCase
{
    private static function visits(int $rows = 400): Table
    {
        $random = new Randomizer(new Mt19937(6));
        $house = $km = $when = $outcome = [];
        for ($i = 0; $i < $rows; ++$i) {
            $house[] = 0 === $i % 19 ? null : (string) $random->getInt(1, 40);
            $km[] = 0 === $i % 7 ? \NAN : $random->getInt(0, 90) / 2;
            $when[] = 0 === $i % 11 ? DateColumn::MISSING : $random->getInt(0, 30) * DateColumn::DAY;
            $outcome[] = 0 === $i % 13 ? null : ['fixed', 'no access', 'part & more'][$random->getInt(0, 2)];
        }

        return Table::of([
            'house' => new TextColumn($house, Kind::Identifier),
            'km' => new NumberColumn($km),
            'when' => new DateColumn($when),
            'outcome' => CodedColumn::fromCells($outcome),
        ]);
    }

    /** @return array<array-key, list<int>> */
    private static function byHouse(Table $table): array
    {
        $groups = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $key = $table->column('house')->text($row);
            if (null !== $key) {
                $groups[$key][] = $row;
            }
        }

        return $groups;
    }

    /** @return list<?string> */
    private static function texts(Column $column, int $rows): array
    {
        return array_map($column->text(...), range(0, $rows - 1));
    }

    public function testEveryFigureIsThatOfTheRecordsOfItsKey(): void
    {
        $visits = self::visits();
        $km = $visits->number('km')->values;
        $gather = new Gather('house', [
            ['how' => 'count'],
            ['how' => 'sum', 'column' => 'km'],
            ['how' => 'mean', 'column' => 'km'],
            ['how' => 'min', 'column' => 'km'],
            ['how' => 'max', 'column' => 'km'],
            ['how' => 'share', 'column' => 'outcome', 'value' => 'no access'],
            ['how' => 'min', 'column' => 'when'],
            ['how' => 'max', 'column' => 'when'],
            ['how' => 'latest', 'column' => 'outcome', 'by' => 'when'],
            ['how' => 'latest', 'column' => 'km', 'by' => 'when'],
        ]);
        $made = $gather->apply($visits, null);
        $groups = self::byHouse($visits);
        self::assertSame(array_map(strval(...), array_keys($groups)), self::texts($made->column('house'), $made->rows));
        self::assertSame(
            [
                'house',
                'records',
                'sum_km',
                'mean_km',
                'min_km',
                'max_km',
                'share_outcome_no_access',
                'min_when',
                'max_when',
                'latest_outcome',
                'latest_km',
            ],
            $made->names(),
        );
        $when = $visits->column('when');
        \assert($when instanceof DateColumn);
        foreach (array_values($groups) as $g => $rows) {
            $known = array_filter(array_map(static fn (int $r): float => $km[$r], $rows), static fn (float $v): bool => !is_nan($v));
            $said = array_filter(array_map($visits->column('outcome')->text(...), $rows), static fn (?string $t): bool => null !== $t);
            $days = array_filter(
                array_map(static fn (int $r): int => $when->seconds[$r], $rows),
                static fn (int $s): bool => DateColumn::MISSING !== $s,
            );
            foreach ([
                'records' => \count($rows),
                'sum_km' => [] === $known ? \NAN : array_sum($known),
                'mean_km' => [] === $known ? \NAN : array_sum($known) / \count($known),
                'min_km' => [] === $known ? \NAN : min($known),
                'max_km' => [] === $known ? \NAN : max($known),
                'share_outcome_no_access' => [] === $said ? \NAN : \count(array_keys($said, 'no access', true)) / \count($said),
            ] as $name => $value) {
                is_nan((float) $value) ? self::assertNan($made->number($name)->values[$g], $name) : self::assertEqualsWithDelta(
                    $value,
                    $made->number($name)->values[$g],
                    1e-12,
                    $name,
                );
            }
            self::assertSame([] === $days ? null : DateColumn::write(min($days)), $made->column('min_when')->text($g));
            self::assertSame([] === $days ? null : DateColumn::write(max($days)), $made->column('max_when')->text($g));
            // Of the latest day the last record; where no day is known, some record of the key.
            if ([] !== $days) {
                $latest = max(-1, ...array_filter($rows, static fn (int $r): bool => $when->seconds[$r] === max($days)));
                self::assertSame($visits->column('outcome')->text($latest), $made->column('latest_outcome')->text($g));
                self::assertSame($visits->column('km')->text($latest), $made->column('latest_km')->text($g));
            }
        }
    }

    public function testTheTollSaysWhatComesOut(): void
    {
        $visits = self::visits();
        $gather = new Gather('house', [['how' => 'count'], ['how' => 'mean', 'column' => 'km']]);
        $toll = $gather->toll($visits, null);
        $made = $gather->apply($visits, null);
        self::assertSame([$visits->rows, $made->rows], [$toll->rowsBefore, $toll->rowsAfter]);
        self::assertSame([4, \count($made->columns())], [$toll->columnsBefore, $toll->columnsAfter]);
        self::assertSame(
            $visits->rows,
            $toll->keyless + (int) array_sum($made->number('records')->values),
            'every record is in, or said to be without a key',
        );
        self::assertSame([0, 0], [$toll->unmatched, $toll->multiplied]);
    }

    public function testFiguresOfTheSameNameAreToldApart(): void
    {
        $twice = ['how' => 'share', 'column' => 'outcome', 'value' => 'part & more'];
        $other = ['value' => 'part - more'] + $twice;
        $gather = new Gather('house', [$twice, $other, $twice, ['how' => 'count']]);
        $made = $gather->apply(self::visits(), null);
        $names = ['house', 'share_outcome_part_more', 'share_outcome_part_more_2', 'share_outcome_part_more_3', 'records'];
        self::assertSame($names, $made->names());
        self::assertSame($names, array_keys($gather->origins($made->names())));
        self::assertSame($made->number('share_outcome_part_more')->values, $made->number('share_outcome_part_more_3')->values);
        self::assertSame(
            0.0,
            array_sum(array_filter($made->number('share_outcome_part_more_2')->values, is_finite(...))),
            'no record has this value',
        );
        self::assertSame(['own' => ['outcome'], 'other' => []], $gather->origins([])['share_outcome_part_more_2']);
        self::assertEquals($gather, KnownCombinations::fromArray($gather->toArray()));
    }

    /** @return iterable<string, array{list<array<string, string>>, string}> */
    public static function refused(): iterable
    {
        yield 'nothing' => [[], 'Choose what is gathered.'];
        yield 'a way that is none' => [[['how' => 'guess']], '"guess" is no way to gather; choose one of count, sum'];
        yield 'a sum of nothing' => [[['how' => 'sum']], '"sum" needs a column.'];
        yield 'a share of no value' => [[['how' => 'share', 'column' => 'outcome']], '"share" needs a column and a value.'];
        yield 'the latest by no date' => [[['how' => 'latest', 'column' => 'km']], '"latest" needs a column and a date.'];
        yield 'a sum of categories' => [[['how' => 'sum', 'column' => 'outcome']], 'outcome holds category: there is no sum of it.'];
        yield 'the mean of dates' => [[['how' => 'mean', 'column' => 'when']], 'when holds date: there is no mean of it.'];
        yield 'the latest by a number' => [
            [['how' => 'latest', 'column' => 'outcome', 'by' => 'km']],
            'km is no date: the latest cannot be told by it.',
        ];
        yield 'a column that is not there' => [[['how' => 'sum', 'column' => 'miles']], 'miles'];
    }

    /** @param list<array{how: string, column?: string, value?: string, by?: string}> $figures */
    #[DataProvider('refused')]
    public function testWhatCannotBeGatheredIsASentence(array $figures, string $says): void
    {
        $this->expectException(CannotCombine::class);
        $this->expectExceptionMessage($says);
        (new Gather('house', $figures))->apply(self::visits(20), null);
    }
}
