<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Prepare;

use Dokimos\Core\Decide\ColumnMatch;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Prepare\Toll;
use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Each step by cases worked by hand. */
final class StepsTest extends TestCase
{
    /** @return iterable<string, array{Column, string, list<int>, string}> column, way, training rows, what fills row 0 */
    public static function fills(): iterable
    {
        $numbers = new NumberColumn([\NAN, 1.0, 2.0, 10.0, 10.0]);
        $colors = CodedColumn::fromCells([null, 'red', 'blue', 'blue', 'red']);
        yield 'median of an even count lies between' => [$numbers, 'median', [0, 1, 2, 3, 4], '6'];
        yield 'median of training rows alone' => [$numbers, 'median', [1, 2], '1.5'];
        yield 'one training row' => [$numbers, 'median', [3], '10'];
        yield 'most frequent number' => [$numbers, 'most frequent', [0, 1, 2, 3, 4], '10'];
        yield 'a tie of numbers goes to the smaller' => [$numbers, 'most frequent', [1, 2], '1'];
        yield 'a tie of levels goes to the first in byte order' => [$colors, 'most frequent', [1, 2, 3, 4], 'blue'];
        yield 'median of a category is its most frequent level' => [$colors, 'median', [1, 4, 2], 'red'];
        yield 'dates' => [new DateColumn([DateColumn::MISSING, 0, 2 * DateColumn::DAY]), 'median', [1, 2], '1970-01-02'];
        yield 'yes/no' => [CodedColumn::fromCells([null, 'yes', 'no', 'yes'], Kind::YesNo), 'most frequent', [1, 2, 3], 'yes'];
    }

    /** @param list<int> $training */
    #[DataProvider('fills')]
    public function testWhatFillsAMissingCell(Column $column, string $method, array $training, string $fill): void
    {
        $table = Table::of(['x' => $column]);
        $out = Preparation::fromArray([[
            'step' => 'fill_missing',
            'columns' => ['x'],
            'method' => $method,
        ]])->fit($table, $training)->apply($table)->table;
        self::assertSame($fill, $out->column('x')->text(0));
        self::assertSame(0, $out->missing());
        for ($row = 1; $row < $table->rows; ++$row) {
            self::assertSame($column->text($row), $out->column('x')->text($row), 'cells that are there stay');
        }
        self::assertSame($column->kind(), $out->column('x')->kind());
    }

    public function testAColumnWhoseNameIsANumberIsFilledMarkedAndSetAside(): void
    {
        $table = Table::of(['2024' => new NumberColumn([1.0, \NAN, 3.0]), '7' => new TextColumn(['a', 'b', 'c'])]);
        $fitted = Preparation::fromArray([
            ['step' => 'fill_missing', 'columns' => ['2024'], 'mark' => true],
            ['step' => 'set_aside', 'columns' => ['7']],
        ])->fit($table, [0, 1, 2]);
        $out = $fitted->apply($table)->table;
        self::assertSame(['2024', '2024_was_missing'], $out->names());
        self::assertSame('2', $out->column('2024')->text(1));
        self::assertStringContainsString('2024 (2)', $fitted->steps[0]->sentence());
        self::assertSame(['2024'], $fitted->asks(['2024_was_missing', '2024']));
    }

    public function testANewTableMayBringWhatTrainingNeverSaw(): void
    {
        $training = Table::of(['c' => CodedColumn::fromCells(['red', 'red', null])]);
        $fitted = Preparation::fromArray([[
            'step' => 'fill_missing',
            'columns' => ['c'],
            'method' => 'most frequent',
            'mark' => true,
        ]])->fit($training, [0, 1, 2]);
        $new = $fitted->apply(Table::of(['c' => CodedColumn::fromCells(['violet', null])]))->table;
        self::assertSame(['violet', 'red'], [$new->column('c')->text(0), $new->column('c')->text(1)]);
        self::assertSame(['no', 'yes'], [$new->column('c_was_missing')->text(0), $new->column('c_was_missing')->text(1)]);
    }

    public function testSettingAsideAsksNothingOfNewRecords(): void
    {
        $fitted = Preparation::fromArray([['step' => 'set_aside', 'columns' => ['a', 'b']]])->fit(
            Table::of(['a' => new NumberColumn([1.0]), 'b' => new NumberColumn([1.0]), 'c' => new NumberColumn([1.0])]),
            [0],
        );
        self::assertSame(['c'], $fitted->apply(Table::of(['c' => new NumberColumn([2.0])]))->table->names());
        self::assertSame(['c'], $fitted->asks(['c']));
    }

    /** @return iterable<string, array{list<string>, int, string}> */
    public static function lists(): iterable
    {
        yield 'one' => [['a'], 4, 'a'];
        yield 'two' => [['a', 'b'], 4, 'a and b'];
        yield 'four' => [['a', 'b', 'c', 'd'], 4, 'a, b, c and d'];
        yield 'too many' => [['a', 'b', 'c', 'd', 'e', 'f'], 4, 'a, b, c and 3 more'];
        yield 'none' => [[], 4, ''];
    }

    /** @param list<string> $names */
    #[DataProvider('lists')]
    public function testListsAreReadable(array $names, int $most, string $words): void
    {
        self::assertSame($words, Words::listed($names, $most));
    }

    /** @return iterable<string, array{float, string}> */
    public static function figures(): iterable
    {
        foreach ([
            [0.0, '0'],
            [11.0, '11'],
            [0.12345678, '0.1235'],
            [1234.0, '1,234'],
            [1234.56, '1,234.6'],
            [-0.00012345, '-0.0001234'],
            [99.996, '100'],
            [1e6, '1,000,000'],
            [-2500.0, '-2,500'],
        ] as [$value, $words]) {
            yield (string) $value => [$value, $words];
        }
    }

    #[DataProvider('figures')]
    public function testNumbersAreReadable(float $value, string $words): void
    {
        self::assertSame($words, Words::number($value));
    }

    public function testATollOfASampleIsCarriedToTheWhole(): void
    {
        $toll = (new Toll(100, 90, 5, 6, 30, 0))->scaled(2.5);
        self::assertSame(
            [250, 225, 5, 6, 75, 0],
            [$toll->rowsBefore, $toll->rowsAfter, $toll->columnsBefore, $toll->columnsAfter, $toll->missingBefore, $toll->missingAfter],
        );
    }

    public function testColumnsOfNewRecordsAreFound(): void
    {
        $number = Kind::Number;
        $lines = ColumnMatch::of(
            ['days_ahead' => $number, '2024' => $number, 'tenure' => Kind::Category, 'gone' => Kind::Date, 'km' => $number],
            ['Days Ahead' => $number, '2024' => $number, 'tenure' => Kind::Text, 'distance' => Kind::Text],
            ['km' => 'distance'],
        );
        self::assertSame(['Days Ahead', '2024', 'tenure', null, 'distance'], array_column($lines, 'found'));
        self::assertSame(['by a similar name', 'by name', 'by name', 'not there', 'by hand'], array_column($lines, 'how'));
        self::assertSame([null, null, null], array_column(\array_slice($lines, 0, 3), 'problem'), 'a category may come as text');
        self::assertStringContainsString('gone is not in this table', (string) $lines[3]['problem']);
        self::assertStringContainsString('km was number at training and is text here', (string) $lines[4]['problem']);
        self::assertSame('2024', $lines[1]['asked']);
    }
}
