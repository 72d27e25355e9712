<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\Follows;
use Dokimos\Core\Explain\Free;
use Dokimos\Core\Explain\Likeness;
use Dokimos\Core\Explain\Reach;
use Dokimos\Core\Explain\Want;
use Dokimos\Core\Formula\WrongFormula;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use Dokimos\Core\Task\Answers;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Columns that follow others change with them, and never by themselves. */
final class FollowsTest extends TestCase
{
    /** @param list<float> $parts */
    private static function table(array $parts): Table
    {
        $labor = array_map(static fn (float $p): float => 100.0 - 2.0 * $p, $parts);

        return Table::of([
            'parts' => new NumberColumn($parts),
            'labor' => new NumberColumn($labor),
            'total' => new NumberColumn(array_map(static fn (float $p, float $l): float => $p + $l, $parts, $labor)),
            'dear' => CodedColumn::fromCells(array_map(static fn (float $p): string => $p > 20 ? 'yes' : 'no', $parts), Kind::YesNo),
            'day' => new DateColumn(array_map(static fn (float $p): int => (int) $p * DateColumn::DAY, $parts)),
            'note' => new TextColumn(array_map(strval(...), $parts)),
        ]);
    }

    public function testEveryAnswerHoldsTheFormulas(): void
    {
        $seen = self::table(array_map(floatval(...), range(0, 40)));
        $record = self::table([10.0]);
        $answers = static fn (Table $t): Answers => new Answers(array_map(
            static fn (float $v): float => $v / 200.0,
            $t->number('total')->values,
        ));
        $follows = Follows::of(
            ['total' => 'parts + labor', 'dear' => 'parts > 20 ? "yes" : "no"'],
            $record,
            ['parts'],
        );
        self::assertSame(['total', 'dear'], $follows->columns());
        $told = (new Reach(
            $answers,
            $record,
            $seen,
            [new Free('parts'), new Free('labor')],
            new Likeness($seen),
            $follows,
        ))->of(Want::between(0.5, null), 0.0);
        self::assertNotSame([], $told['found']);
        foreach ($told['found'] as $one) {
            self::assertSame([], array_intersect_key($one->changes, ['total' => 1, 'dear' => 1]), 'what follows is not changed by itself');
            $parts = (float) ($one->changes['parts'] ?? 10.0);
            $labor = (float) ($one->changes['labor'] ?? 80.0);
            self::assertEqualsWithDelta($parts + $labor, $one->followed['total'], 1e-9);
            self::assertEqualsWithDelta(($parts + $labor) / 200.0, $one->answer[0], 1e-9, 'the answer is that of the whole record');
            self::assertSame($parts > 20.0 ? 'yes' : null, $one->followed['dear'] ?? null, 'only what is another one is told');
        }
        // Without the formula nothing reaches it: the total stays where it is.
        $alone = (new Reach(
            $answers,
            $record,
            $seen,
            [new Free('parts'), new Free('labor')],
            new Likeness($seen),
        ))->of(Want::between(0.5, null), 0.0);
        self::assertSame([], $alone['found']);
        self::assertSame([], $alone['nearest']?->followed);
    }

    public function testTheyAreWorkedOutInTheirOrderForEveryRow(): void
    {
        $table = self::table([1.0, 30.0, 12.0]);
        $follows = Follows::of(['labor' => '3 * parts', 'total' => 'labor + parts'], $table, []);
        $made = $follows->apply($table);
        self::assertSame([3.0, 90.0, 36.0], $made->number('labor')->values);
        self::assertSame([4.0, 120.0, 48.0], $made->number('total')->values);
        self::assertSame($table->number('parts'), $made->number('parts'));
        // What cannot be worked out is missing, as a formula has it.
        $holes = $table->with('parts', new NumberColumn([1.0, \NAN, 12.0]));
        self::assertNan($follows->apply($holes)->number('total')->values[1]);
    }

    /** A record that does not hold the formula as it came keeps its cell, unless what leads to it is changed. */
    public function testOnlyWhatIsTouchedIsWorkedOutAgain(): void
    {
        $table = self::table([1.0, 30.0, 12.0]);
        $follows = Follows::of(['labor' => '3 * parts', 'total' => 'labor + 1', 'dear' => 'parts > 20 ? "yes" : "no"'], $table, []);
        $made = $follows->apply($table, [['note'], ['parts'], []]);
        self::assertSame([98.0, 90.0, 76.0], $made->number('labor')->values);
        self::assertSame([99.0, 91.0, 88.0], $made->number('total')->values, 'what follows what follows is touched as well');
        self::assertSame(['no', 'yes', 'no'], array_map($made->column('dear')->text(...), [0, 1, 2]));
    }

    /** @return iterable<string, array{array<string, string>, list<string>, string}> */
    public static function refused(): iterable
    {
        yield 'a column that is not there' => [['luck' => 'parts'], [], 'luck is no number, date or category'];
        yield 'a text' => [['note' => 'parts'], [], 'note is no number, date or category'];
        yield 'what is free' => [['total' => 'parts + labor'], ['total'], 'total is free to change'];
        yield 'itself' => [['total' => 'total + 1'], [], 'total cannot follow itself'];
        yield 'in a circle' => [['total' => 'parts + labor', 'labor' => 'total - parts'], [], 'total follows labor, which comes after it'];
        yield 'no formula' => [['total' => 'parts +'], [], 'At letter'];
        yield 'a column the formula does not know' => [['total' => 'pats + labor'], [], 'did you mean parts?'];
        yield 'another kind' => [['total' => '"much"'], [], 'total holds number, and its formula makes'];
        yield 'a number for a date' => [['day' => 'parts + 1'], [], 'day holds date, and its formula makes number'];
    }

    /**
     * @param array<string, string> $formulas
     * @param list<string>          $free
     */
    #[DataProvider('refused')]
    public function testWhatCannotFollowIsASentence(array $formulas, array $free, string $says): void
    {
        $this->expectException(WrongFormula::class);
        $this->expectExceptionMessage($says);
        $record = self::table([10.0]);
        Follows::of($formulas, $record, $free)->apply($record);
    }
}
