<?php

declare(strict_types=1);

namespace App\Tests\Source;

use App\Score\Beyond;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\TableColumn;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What of new records lies beyond those that a model was made with. */
final class BeyondTest extends TestCase
{
    private static function beyond(): Beyond
    {
        $made = new DataTable(new Study('a study', ''), 'made', 'made.csv', 0, []);
        foreach ([
            ['age', Kind::Number, [], ['summary' => ['min' => 2, 'median' => 7, 'max' => 40.5]]],
            ['7', Kind::Number, [], ['summary' => ['min' => -1, 'max' => 1]]],
            ['empty', Kind::Number, [], []],
            ['slot', Kind::Category, ['am', 'pm'], ['summary' => ['mode' => 'pm']]],
            ['note', Kind::Text, [], []],
            ['left', Kind::Number, [], ['summary' => ['min' => 0, 'max' => 0]]],
        ] as $position => [$name, $kind, $levels, $profile]) {
            $column = new TableColumn($made, $position, $name);
            $column->describe($kind, $levels, $profile, [], 0);
            $made->addColumn($column);
        }

        // "left" is none that the model asks for.
        return Beyond::of($made, ['age', '7', 'empty', 'slot', 'note']);
    }

    private static function records(): Table
    {
        return Table::of([
            'age' => new NumberColumn([2.0, 40.5, 41.0, \NAN, 1.5]),
            '7' => new NumberColumn([0.0, 9.0, 0.0, 0.0, 0.0]),
            'empty' => new NumberColumn([1e9, 1e9, 1e9, 1e9, 1e9]),
            'slot' => CodedColumn::fromCells(['am', 'pm', 'am', 'night', null]),
            'note' => new TextColumn(['a', 'b', 'c', 'd', 'e'], Kind::Text),
            'left' => new NumberColumn([9.0, 9.0, 9.0, 9.0, 9.0]),
        ], 5);
    }

    public function testEndsBelongToTheRangeAndMissingIsNotBeyond(): void
    {
        self::assertSame([
            1 => ['7 9 is beyond 1'],
            2 => ['age 41 is beyond 40.5'],
            3 => ['slot "night" was never seen'],
            4 => ['age 1.5 is beyond 2'],
        ], self::beyond()->said(self::records()));
        self::assertSame([2, 4], array_keys(self::beyond()->said(self::records(), ['age'])));
    }

    public function testASummaryIsASentenceForEachColumn(): void
    {
        $said = self::beyond()->summary(self::records());
        self::assertSame(['age', '7'], array_map(strval(...), array_keys($said)));
        self::assertSame('age reaches beyond 2 to 40.5, which the model was made with: 1.5, 41 in 2 records.', $said['age']);
        self::assertStringEndsWith('9 in 1 record.', array_values($said)[1] ?? '');
        self::assertSame([], self::beyond()->summary(self::records()->take([0])));
    }

    public function testAColumnThatIsNotThereIsFilledWithWhatIsUsual(): void
    {
        $beyond = self::beyond();
        self::assertSame(['7', 'pm', null, null, null], array_map($beyond->usual(...), ['age', 'slot', '7', 'note', 'gone']));
        $records = Table::of([
            'age' => new NumberColumn([\NAN, \NAN]),
            'slot' => CodedColumn::fromCells([null, null]),
            'note' => new TextColumn([null, null], Kind::Text),
        ], 2);
        [$filled, $out] = $beyond->settled(
            $records,
            ['age' => Beyond::FILL, 'slot' => Beyond::FILL, 'note' => Beyond::FILL, 'gone' => Beyond::FILL],
        );
        self::assertSame([7.0, 7.0], $filled->number('age')->values);
        self::assertSame(['pm', 'pm'], [$filled->column('slot')->text(0), $filled->column('slot')->text(1)]);
        self::assertSame([null, []], [$filled->column('note')->text(0), $out]);
        self::assertSame($records, $beyond->settled($records, ['age' => Beyond::MISSING])[0]);
    }

    /** @return iterable<string, array{array<array-key, string>, list<float>, array<int, string>}> */
    public static function answers(): iterable
    {
        yield 'as they are' => [['age' => Beyond::SCORE], [2.0, 40.5, 41.0, 1.5], []];
        yield 'held' => [['age' => Beyond::HOLD], [2.0, 40.5, 40.5, 2.0], []];
        yield 'left out' => [['age' => Beyond::LEAVE], [2.0, 40.5, 41.0, 1.5], [2 => 'age 41 is beyond 40.5', 4 => 'age 1.5 is beyond 2']];
        yield 'a column named by a number' => [['7' => Beyond::LEAVE], [2.0, 40.5, 41.0, 1.5], [1 => '7 9 is beyond 1']];
        yield 'a value never seen' => [['slot' => Beyond::LEAVE], [2.0, 40.5, 41.0, 1.5], [3 => 'slot "night" was never seen']];
        yield 'each by its own answer' => [
            ['age' => Beyond::HOLD, 'slot' => Beyond::LEAVE],
            [2.0, 40.5, 40.5, 2.0],
            [3 => 'slot "night" was never seen'],
        ];
        yield 'a column that is not there' => [['gone' => Beyond::HOLD], [2.0, 40.5, 41.0, 1.5], []];
    }

    /**
     * @param array<array-key, string> $answers
     * @param list<float>              $ages
     * @param array<int, string>       $left
     */
    #[DataProvider('answers')]
    public function testRecordsAreSettledByTheAnswers(array $answers, array $ages, array $left): void
    {
        [$records, $out] = self::beyond()->settled(self::records(), array_map(strval(...), $answers));
        self::assertSame($ages, array_values(array_filter($records->number('age')->values, is_finite(...))));
        self::assertNan($records->number('age')->values[3], 'missing stays missing');
        self::assertSame($left, $out);
        self::assertSame(self::records()->names(), $records->names());
    }
}
