<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Measure;

use Dokimos\Core\Measure\Groups;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class GroupsTest extends TestCase
{
    /** @return iterable<string, array{Column, array<array-key, int>}> */
    public static function columns(): iterable
    {
        yield 'values, most frequent first' => [
            CodedColumn::fromCells(['b', 'a', 'b', null, 'b', 'a']),
            ['b' => 3, 'a' => 2, 'no value' => 1],
        ];
        yield 'a level that no row has' => [new CodedColumn([0, 0, 2], ['x', 'unused', '7']), ['x' => 2, '7' => 1]];
        yield 'rare values together' => [
            CodedColumn::fromCells([
                ...array_fill(0, 40, 'big'),
                ...array_map(static fn (int $i): string => 'v'.intdiv($i, 2), range(0, 39)),
            ]),
            ['big' => 40] + array_fill_keys(array_map(static fn (int $i): string => 'v'.$i, range(0, 9)), 2) + ['all others' => 20],
        ];
        yield 'numbers in fifths' => [
            new NumberColumn([...array_map(floatval(...), range(1, 50)), \NAN]),
            [
                'up to 10.8' => 10,
                'above 10.8 to 20.6' => 10,
                'above 20.6 to 30.4' => 10,
                'above 30.4 to 40.2' => 10,
                'above 40.2' => 10,
                'no value' => 1,
            ],
        ];
        yield 'one number' => [new NumberColumn([3.0, 3.0]), ['any value' => 2]];
        yield 'nothing but gaps' => [new NumberColumn([\NAN, \NAN]), ['no value' => 2]];
        yield 'infinities' => [new NumberColumn([-\INF, 0.0, 1.0, \INF]), []];
        yield 'days' => [
            new DateColumn([0, 86400 * 10, DateColumn::MISSING]),
            ['up to 1970-01-03' => 1, 'above 1970-01-09' => 1, 'no date' => 1],
        ];
        yield 'no row' => [new NumberColumn([]), []];
    }

    /** @param array<array-key, int> $expected */
    #[DataProvider('columns')]
    public function testEveryRowIsInOneGroup(Column $column, array $expected): void
    {
        $groups = Groups::of($column);
        $all = array_merge(...$groups->rows);
        sort($all);
        self::assertSame(array_keys($all), $all);
        self::assertCount($column->count(), $all);
        self::assertNotContains([], $groups->rows);
        if ([] !== $expected) {
            self::assertSame($expected, array_combine($groups->names, array_map(\count(...), $groups->rows)));
        }
    }

    public function testFreeTextIsRefused(): void
    {
        $this->expectExceptionMessage('Free text does not divide rows into groups.');
        Groups::of(new TextColumn(['a note']));
    }
}
