<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Design;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\TestCase;

/** How a table becomes a matrix. */
final class CodingTest extends TestCase
{
    private static function table(): Table
    {
        return Table::of([
            'km' => new NumberColumn([1.0, 2.0, \NAN, 4.0, 5.0]),
            'same' => new NumberColumn([3.0, 3.0, 3.0, 3.0, 9.0]),
            'day' => new DateColumn([0, DateColumn::DAY, DateColumn::MISSING, 3 * DateColumn::DAY, DateColumn::DAY / 2]),
            'color' => CodedColumn::fromCells(['red', 'blue', 'red', null, 'green']),
            'one' => CodedColumn::fromCells(['x', 'x', 'x', 'x', 'y']),
            'late' => CodedColumn::fromCells(['yes', 'no', 'yes', 'no', 'yes'], Kind::YesNo),
            'note' => new TextColumn(['a', 'b', 'c', 'd', 'e']),
            'many' => CodedColumn::fromCells(array_map(static fn (int $i) => 'v'.$i, range(0, 4))),
            '2024' => new NumberColumn([10.0, 20.0, 30.0, 40.0, 50.0]),
        ]);
    }

    private static function learned(): Coding
    {
        return Coding::learn(self::table(), ['km', 'same', 'day', 'color', 'one', 'late', 'note', '2024'], [0, 1, 2, 3]);
    }

    public function testTermsComeFromTrainingRowsAlone(): void
    {
        $coding = self::learned();
        self::assertSame(['km', 'day', 'color=red', 'late=yes', '2024'], array_map(static fn ($t) => $t->name(), $coding->terms));
        self::assertSame(['km', 'day', 'color', 'late', '2024'], $coding->columns);
        self::assertSame(
            ['blue', 'red'],
            $coding->levels['color'],
            'green stands in no training row; the first in byte order is the reference',
        );
        self::assertSame(['same', 'one', 'note'], array_keys($coding->leftOut));
        self::assertStringContainsString('the same value in every training row', $coding->leftOut['same']);
        self::assertStringContainsString('a column of kind text', $coding->leftOut['note']);
    }

    public function testRowsWithAMissingValueAreNotComplete(): void
    {
        self::assertSame([0, 1, 4], self::learned()->complete(self::table(), [0, 1, 2, 3, 4]));
        self::assertSame([4, 0], self::learned()->complete(self::table(), [4, 2, 0]), 'in the order asked for');
    }

    public function testTheMatrixHoldsTheConstantNumbersDaysAndMarks(): void
    {
        $matrix = self::learned()->matrix(self::table(), [0, 1, 4]);
        self::assertSame(['(intercept)', 'km', 'day', 'color=red', 'late=yes', '2024'], $matrix->names);
        self::assertSame(
            [[[1.0, 1.0, 1.0], [1.0, 2.0, 5.0], [0.0, 1.0, 0.5], [1.0, 0.0, 0.0], [1.0, 0.0, 1.0], [10.0, 20.0, 50.0]]],
            iterator_to_array($matrix->blocks()),
        );
        self::assertSame(3, $matrix->rows);
    }

    public function testItIsStoredAndReadBack(): void
    {
        $coding = self::learned();
        /** @var array{columns: list<string>, terms: list<array{column: string, level: ?string}>, levels: array<string, list<string>>, left_out: array<string, string>} $stored */
        $stored = json_decode(json_encode($coding->toArray(), \JSON_THROW_ON_ERROR), true);
        self::assertEquals($coding, Coding::fromArray($stored));
        self::assertEquals($coding->matrix(self::table(), [0, 1]), Coding::fromArray($stored)->matrix(self::table(), [0, 1]));
    }

    public function testTooManyLevelsAreLeftOutWithAWord(): void
    {
        $cells = array_map(static fn (int $i) => 'v'.$i % (Coding::MOST_LEVELS + 1), range(0, 400));
        $table = Table::of(['many' => CodedColumn::fromCells($cells)]);
        self::assertStringContainsString(
            '101 different values are too many',
            Coding::learn($table, ['many'], range(0, 400))->leftOut['many'],
        );
        self::assertSame([], Coding::learn($table, ['many'], range(0, 50))->leftOut);
        $outcome = array_map(floatval(...), range(0, 400));
        self::assertCount(
            1,
            Coding::learn($table, ['many'], range(0, 400), ['mean outcome' => $outcome])->terms,
            'unless an outcome can speak for them',
        );
    }

    public function testAColumnOfAnotherKindThanLearnedIsNamed(): void
    {
        $this->expectException(\DomainException::class);
        $this->expectExceptionMessage('Column "km" is text in this table');
        self::learned()->matrix(self::table()->with('km', new TextColumn(['1', '2', '3', '4', '5'])), [0]);
    }

    public function testBlocksCutRowsAndKeepThemAll(): void
    {
        foreach ([0, 1, Matrix::BLOCK - 1, Matrix::BLOCK, Matrix::BLOCK + 1, 3 * Matrix::BLOCK + 7] as $rows) {
            $columns = [array_map(floatval(...), $rows > 0 ? range(1, $rows) : []), array_fill(0, $rows, 2.0), array_fill(0, $rows, 3.0)];
            $matrix = Matrix::ofColumns($columns, ['a', 'b', 'c'], $rows);
            self::assertSame($columns[0], array_merge([], ...array_column(iterator_to_array($matrix->blocks()), 0)));
            self::assertCount((int) ceil($rows / Matrix::BLOCK), iterator_to_array($matrix->blocks()));
            $less = $matrix->without([1]);
            self::assertSame(['a', 'c'], $less->names);
            self::assertSame($columns[2], array_merge([], ...array_column(iterator_to_array($less->blocks()), 1)));
        }
    }
}
