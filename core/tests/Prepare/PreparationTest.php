<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Prepare;

use Dokimos\Core\Prepare\CannotPrepare;
use Dokimos\Core\Prepare\FittedPreparation;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Prepare\Prepared;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class PreparationTest extends TestCase
{
    private const STEPS = [
        ['step' => 'set_aside', 'columns' => ['note']],
        ['step' => 'fill_missing', 'columns' => ['age', 'color', 'day'], 'method' => 'median', 'mark' => true],
    ];

    private static function table(): Table
    {
        return Files::ofText("age,color,day,note,other\n1,red,2026-01-01,hello there my friend,5\n,blue,,x,6\n3,,2026-01-03,y,7\n10,blue,2026-01-09,z,\n4,blue,2026-01-05,w,9\n");
    }

    /** @return list<string|null> */
    private static function cells(Table $table, string $name): array
    {
        return array_map($table->column($name)->text(...), range(0, $table->rows - 1));
    }

    public function testRowsWithAValueInEveryColumnToLearnFrom(): void
    {
        $table = Table::of([
            'km' => new NumberColumn([1.0, \NAN, 3.0, 4.0, 5.0]),
            'make' => CodedColumn::fromCells(['a', 'b', null, 'a', 'b']),
            'weight' => new NumberColumn([1.0, 1.0, 1.0, \NAN, 1.0]),
            'note' => new CodedColumn([-1, -1, -1, -1, -1], [], Kind::Identifier),
        ]);
        self::assertSame(2, (new Prepared($table))->complete());
        self::assertSame(3, (new Prepared($table))->complete(['weight']));
        self::assertSame(
            2,
            (new Prepared($table, [0 => 'dropped', 1 => 'dropped']))->complete(['weight']),
            'a row that is out counts once',
        );
        self::assertSame(0, (new Prepared($table->take([1])))->complete());
    }

    public function testTheStepsDoWhatTheySay(): void
    {
        $fitted = Preparation::fromArray(self::STEPS)->fit(self::table(), range(0, 4));
        $out = $fitted->apply(self::table())->table;
        self::assertFalse($out->has('note'));
        self::assertSame(['1', '3.5', '3', '10', '4'], self::cells($out, 'age'));
        self::assertSame(['red', 'blue', 'blue', 'blue', 'blue'], self::cells($out, 'color'));
        self::assertSame('2026-01-04', self::cells($out, 'day')[1]);
        self::assertSame(['no', 'yes', 'no', 'no', 'no'], self::cells($out, 'age_was_missing'));
        self::assertSame(1, $out->missing(), 'other was not named');
        self::assertSame('Sets note aside.', $fitted->steps[0]->sentence());
        self::assertStringStartsWith('Fills 3 missing cells', $fitted->steps[1]->sentence());
    }

    public function testTollsEqualWhatIsCountedIndependently(): void
    {
        $table = self::table();
        foreach (Preparation::fromArray(self::STEPS)->fit($table, range(0, 4))->tolls as $i => $toll) {
            $after = Preparation::fromArray(\array_slice(self::STEPS, 0, $i + 1))->fit($table, range(0, 4))->apply($table)->table;
            $missing = 0;
            foreach ($after->names() as $name) {
                $missing += \count(array_keys(self::cells($after, $name), null, true));
            }
            self::assertSame(
                [$after->rows, \count($after->names()), $missing],
                [$toll->rowsAfter, $toll->columnsAfter, $toll->missingAfter],
            );
        }
    }

    /** A step fitted on training rows gives the same whatever the other rows hold. */
    public function testNothingLeaksFromOtherRows(): void
    {
        $training = [0, 2, 4];
        $table = self::table();
        $other = Files::ofText("age,color,day,note,other\n1,red,2026-01-01,hello there my friend,5\n999,green,2099-01-01,x,6\n3,,2026-01-03,y,7\n-50,green,2001-01-01,z,\n4,blue,2026-01-05,w,9\n");
        $one = Preparation::fromArray(self::STEPS)->fit($table, $training);
        $two = Preparation::fromArray(self::STEPS)->fit($other, $training);
        self::assertSame(self::cells($one->apply($table)->table, 'age')[1], self::cells($two->apply($table)->table, 'age')[1]);
        self::assertSame(self::cells($one->apply($table)->table, 'day')[1], self::cells($two->apply($table)->table, 'day')[1]);
    }

    public function testARecordAloneIsTreatedAsInABatchAndAfterBeingStored(): void
    {
        $table = self::table();
        $fitted = Preparation::fromArray(self::STEPS)->fit($table, range(0, 4));
        /** @var list<array<string, mixed>> $stored */
        $stored = json_decode(json_encode($fitted->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true);
        $back = FittedPreparation::fromArray($stored);
        $whole = $fitted->apply($table)->table;
        for ($row = 0; $row < $table->rows; ++$row) {
            $alone = $back->apply($table->take([$row]))->table;
            foreach ($whole->names() as $name) {
                self::assertSame($whole->column($name)->text($row), $alone->column($name)->text(0), $name);
            }
        }
    }

    public function testEveryColumnWithMissingCellsStaysTrueWhenTheTableChanges(): void
    {
        $all = Preparation::fromArray([['step' => 'fill_missing', 'choose' => ['missing' => true], 'method' => 'most frequent']]);
        self::assertSame(0, $all->fit(self::table(), range(0, 4))->apply(self::table())->missing());
        $whole = self::table()->take([0, 4]);
        self::assertSame(
            'Fills nothing here: no column has missing cells. It will, should new records have some.',
            $all->fit($whole, [0, 1])->steps[0]->sentence(),
        );
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function impossible(): iterable
    {
        yield 'unknown step' => [['step' => 'magic'], 'no step called "magic"'];
        yield 'nothing chosen' => [['step' => 'set_aside', 'columns' => []], 'Choose at least one column'];
        yield 'no such column' => [['step' => 'set_aside', 'columns' => ['gone']], 'Step 1: There is no column gone'];
        yield 'no such way' => [
            ['step' => 'fill_missing', 'columns' => ['age'], 'method' => 'guess'],
            '"guess" is not one of: median, mean',
        ];
        yield 'text' => [['step' => 'fill_missing', 'columns' => ['free']], 'free holds text'];
        yield 'empty in training' => [['step' => 'fill_missing', 'columns' => ['void']], 'void has no value in any training row'];
        yield 'names that are no names' => [['step' => 'set_aside', 'columns' => [5]], 'by their names'];
    }

    /** @param array<string, mixed> $step */
    #[DataProvider('impossible')]
    public function testWhatCannotBeDoneIsSaid(array $step, string $says): void
    {
        $this->expectException(CannotPrepare::class);
        $this->expectExceptionMessage($says);
        $rows = implode('', array_map(static fn (int $i) => "$i,,\"a long free note about record $i\"\n", range(1, 40)));
        Preparation::fromArray([$step])->fit(Files::ofText("age,void,free\n".$rows), range(0, 39));
    }

    public function testASwitchedOffStepDoesNothing(): void
    {
        self::assertSame([], Preparation::fromArray([['step' => 'set_aside', 'columns' => ['age'], 'off' => true]])->steps);
    }
}
