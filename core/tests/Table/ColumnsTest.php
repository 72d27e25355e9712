<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Table;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Every kind of column keeps the same promises. */
final class ColumnsTest extends TestCase
{
    /** @return iterable<string, array{Column, Kind, list<?string>}> */
    public static function columns(): iterable
    {
        yield 'numbers' => [new NumberColumn([1.0, \NAN, 2.5, -3.0]), Kind::Number, ['1', null, '2.5', '-3']];
        yield 'dates' => [
            new DateColumn([0, DateColumn::MISSING, 86400, 90061]),
            Kind::Date,
            ['1970-01-01', null, '1970-01-02', '1970-01-02T01:01:01'],
        ];
        yield 'categories' => [CodedColumn::fromCells(['red', null, 'blue', 'red']), Kind::Category, ['red', null, 'blue', 'red']];
        yield 'categories that look like numbers' => [
            CodedColumn::fromCells(['1', null, '01', '1']),
            Kind::Category,
            ['1', null, '01', '1'],
        ];
        yield 'yes/no' => [CodedColumn::fromCells(['yes', null, 'no', 'yes'], Kind::YesNo), Kind::YesNo, ['yes', null, 'no', 'yes']];
        yield 'text' => [new TextColumn(['a b', null, '', 'c']), Kind::Text, ['a b', null, '', 'c']];
        yield 'identifiers' => [new TextColumn(['V1', null, 'V2', 'V3'], Kind::Identifier), Kind::Identifier, ['V1', null, 'V2', 'V3']];
    }

    /** @param list<?string> $texts */
    #[DataProvider('columns')]
    public function testCellsMissingAndTaking(Column $column, Kind $kind, array $texts): void
    {
        self::assertSame($kind, $column->kind());
        self::assertSame(4, $column->count());
        self::assertSame($texts, array_map($column->text(...), range(0, 3)));
        self::assertSame(\count(array_keys($texts, null, true)), $column->missing());
        self::assertSame([false, true, false, false], array_map($column->isMissing(...), range(0, 3)));
        $taken = $column->take([3, 1, 3]);
        self::assertSame($column::class, $taken::class);
        self::assertSame([$texts[3], $texts[1], $texts[3]], array_map($taken->text(...), range(0, 2)));
        self::assertSame($kind, $taken->kind());
        self::assertSame(0, $column->take([])->count());
        self::assertSame($texts, array_map($column->text(...), range(0, 3)), 'taking changes nothing');
    }

    public function testLevelsAreCountedInTheRowsAskedFor(): void
    {
        $column = CodedColumn::fromCells(['a', 'b', null, 'a', 'c']);
        self::assertSame([2, 1, 1], $column->counts());
        self::assertSame([1, 0, 1], $column->counts([0, 2, 4]));
        self::assertSame([0, 0, 0], $column->counts([2]));
    }

    /** @return iterable<string, array{float, string}> */
    public static function written(): iterable
    {
        foreach ([
            [0.0, '0'],
            [-0.0, '0'],
            [3.0, '3'],
            [-12.0, '-12'],
            [0.1, '0.1'],
            [1 / 3, '0.3333333333333333'],
            [1e15, '1000000000000000'],
            [1e20, '1.0e+20'],
            [1e-7, '1.0e-7'],
            [123456789.25, '123456789.25'],
            [999999999999999.0, '999999999999999'],
        ] as [$value, $text]) {
            yield $text.' '.$value => [$value, $text];
        }
    }

    #[DataProvider('written')]
    public function testNumbersAreWrittenAsTheShortestTextThatReadsBack(float $value, string $text): void
    {
        self::assertSame($text, NumberColumn::write($value));
        self::assertSame($value + 0.0, (float) $text);
    }

    private static function table(): Table
    {
        return Table::of([
            'n' => new NumberColumn([1.0, \NAN, 3.0]),
            'c' => CodedColumn::fromCells(['x', 'y', null]),
            '7' => new TextColumn(['p', 'q', 'r']),
        ]);
    }

    public function testATableHoldsColumnsOfEqualLength(): void
    {
        $table = self::table();
        self::assertSame(3, $table->rows);
        self::assertSame(['n', 'c', '7'], $table->names(), 'a name made of digits stays a text');
        self::assertSame(2, $table->missing());
        self::assertTrue($table->has('7'));
        self::assertSame('q', $table->column('7')->text(1));
        self::assertSame(3.0, $table->number('n')->values[2]);
    }

    public function testATableIsNotChangedButGivesChangedOnes(): void
    {
        $table = self::table();
        $more = $table->with('new', new NumberColumn([7.0, 8.0, 9.0]))->with('c', new TextColumn([null, null, null]));
        self::assertSame(['n', 'c', '7', 'new'], $more->names(), 'a replaced column keeps its place');
        self::assertSame(4, $more->missing());
        self::assertSame(['n', '7'], $table->without(['c', 'gone'])->names());
        $taken = $table->take([2, 0]);
        self::assertSame([2, '3', '1'], [$taken->rows, $taken->column('n')->text(0), $taken->column('n')->text(1)]);
        self::assertSame(['n', 'c', '7'], $table->names());
        self::assertSame(5, Table::of([], 5)->rows);
    }

    /** @return iterable<string, array{\Closure(Table): mixed, class-string<\Throwable>, string}> */
    public static function mistakes(): iterable
    {
        yield 'a column that is too short' => [
            static fn (Table $t) => $t->with('short', new NumberColumn([1.0])),
            \LengthException::class,
            'Column "short" has 1 cells, the table has 3 rows.',
        ];
        yield 'no such column' => [static fn (Table $t) => $t->column('gone'), \OutOfBoundsException::class, 'There is no column "gone".'];
        yield 'not a number' => [
            static fn (Table $t) => $t->number('c'),
            \DomainException::class,
            'Column "c" holds category, a number is needed.',
        ];
    }

    /**
     * @param \Closure(Table): mixed   $mistake
     * @param class-string<\Throwable> $class
     */
    #[DataProvider('mistakes')]
    public function testMistakesAreNamed(\Closure $mistake, string $class, string $says): void
    {
        $this->expectException($class);
        $this->expectExceptionMessage($says);
        $mistake(self::table());
    }
}
