<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Select;

use Dokimos\Core\Select\Condition;
use Dokimos\Core\Select\Conditions;
use Dokimos\Core\Select\Relation;
use Dokimos\Core\Select\UnclearCondition;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ConditionsTest extends TestCase
{
    private static function table(): Table
    {
        $day = DateColumn::DAY;

        return Table::of([
            'km' => new NumberColumn([5.0, \NAN, -1.5, 12.0, 5.0]),
            'when' => new DateColumn([0, $day, $day + 3600, DateColumn::MISSING, 2 * $day]),
            'who' => CodedColumn::fromCells(['tenant', 'owner', null, 'owner', 'landlord']),
            'note' => new TextColumn(['Gate Code', null, 'gate', 'a dog', 'ÜBER gate'], Kind::Text),
            '7' => new NumberColumn([1.0, 2.0, 3.0, 4.0, 5.0]),
        ]);
    }

    /** @return iterable<array{list<list<string>>, bool, list<int>}> */
    public static function questions(): iterable
    {
        yield [[], false, [0, 1, 2, 3, 4]];
        yield [[], true, [0, 1, 2, 3, 4]];
        yield [[['km', 'is over', '5']], false, [3]];
        yield [[['km', 'is at least', '5']], false, [0, 3, 4]];
        yield [[['km', 'is under', '5']], false, [2]];
        yield [[['km', 'is at most', '5']], false, [0, 2, 4]];
        yield [[['km', 'is', '5.0']], false, [0, 4]];
        yield [[['km', 'is not', '5']], false, [2, 3]];
        yield [[['km', 'is between', '6', '-2']], false, [0, 2, 4]];
        yield [[['km', 'is missing']], false, [1]];
        yield [[['km', 'is present']], false, [0, 2, 3, 4]];
        yield [[['when', 'is', '1970-01-02']], false, [1, 2]];
        yield [[['when', 'is', '1970-01-02 01:00']], false, [2]];
        yield [[['when', 'is not', '1970-01-02']], false, [0, 4]];
        yield [[['when', 'is after', '1970-01-01']], false, [1, 2, 4]];
        yield [[['when', 'is on or after', '1970-01-02']], false, [1, 2, 4]];
        yield [[['when', 'is before', '1970-01-02']], false, [0]];
        yield [[['when', 'is on or before', '1970-01-02']], false, [0, 1, 2]];
        yield [[['when', 'is between', '1970-01-03', '1970-01-02']], false, [1, 2, 4]];
        yield [[['who', 'is', 'owner']], false, [1, 3]];
        yield [[['who', 'is not', 'owner']], false, [0, 4]];
        yield [[['who', 'is one of', 'owner', 'landlord']], false, [1, 3, 4]];
        yield [[['who', 'is none of', 'owner', 'landlord']], false, [0]];
        yield [[['note', 'contains', 'GATE']], false, [0, 2, 4]];
        yield [[['note', 'does not contain', 'gate']], false, [3]];
        yield [[['note', 'begins with', 'über']], false, [4]];
        yield [[['note', 'is', 'gate']], false, [2]];
        yield [[['note', 'is none of', 'gate', 'A DOG']], false, [0, 4]];
        yield [[['7', 'is over', '3'], ['who', 'is', 'owner']], false, [3]];
        yield [[['7', 'is over', '3'], ['who', 'is', 'owner']], true, [1, 3, 4]];
    }

    /**
     * @param list<list<string>> $given
     * @param list<int>          $expected
     */
    #[DataProvider('questions')]
    public function testFindsRows(array $given, bool $any, array $expected): void
    {
        $table = self::table();
        [$rows] = Conditions::fromArray($given, $any)->rows($table->column(...), $table->rows);
        self::assertSame($expected, $rows);
    }

    public function testDroppingAConditionIsWhatTheOthersSay(): void
    {
        $table = self::table();
        $all = [['7', 'is over', '2'], ['who', 'is', 'owner'], ['km', 'is present'], ['note', 'contains', 'dog']];
        foreach ([false, true] as $any) {
            foreach (range(1, 4) as $many) {
                $given = \array_slice($all, 0, $many);
                [, $without] = Conditions::fromArray($given, $any)->rows($table->column(...), $table->rows);
                foreach (array_keys($given) as $i) {
                    $rest = array_values(array_diff_key($given, [$i => true]));
                    self::assertCount(
                        $without[$i],
                        Conditions::fromArray($rest, $any)->rows($table->column(...), $table->rows)[0],
                        json_encode([$any, $given, $i], \JSON_THROW_ON_ERROR),
                    );
                }
            }
        }
    }

    public function testReadsAsASentence(): void
    {
        self::assertSame(
            'km is between 3 and 9 or who is one of a, b or note is missing',
            Conditions::fromArray(
                [['km', 'is between', '3', '9'], ['who', 'is one of', 'a', 'b'], ['note', 'is missing']],
                true,
            )->sentence(),
        );
    }

    /** @return iterable<array{list<mixed>, string}> */
    public static function unclear(): iterable
    {
        yield [[['km', 'is over']], '"km is over" takes one value.'];
        yield [[['km', 'is missing', '3']], '"km is missing" takes no value.'];
        yield [[['km', 'is between', '3']], '"km is between" takes two values.'];
        yield [[['who', 'is one of']], '"who is one of" takes one to 200 values.'];
        yield [[['km', 'resembles', '3']], '"resembles" is not a relation'];
        yield [[['km', 'is over', 'many']], '"many" is not a number; km holds numbers.'];
        yield [[['when', 'is after', 'Easter']], '"Easter" is not a date; write it as 2026-03-14.'];
        yield [[['who', 'is over', '3']], 'who holds category; ask whether it is, is not'];
        yield [[['who', 'is', 'nobody']], 'who is never "nobody".'];
        yield [['km'], 'A condition is a list of texts'];
        yield [[['km', 'is', 3]], 'A condition is a list of texts'];
        yield [[['km']], 'A condition is a list of texts'];
        yield [[['a' => 'km', 'b' => 'is']], 'A condition is a list of texts'];
        yield [array_fill(0, 13, ['km', 'is missing']), 'At most 12 conditions at once.'];
    }

    /** @param list<mixed> $given */
    #[DataProvider('unclear')]
    public function testSaysWhatIsUnclear(array $given, string $sentence): void
    {
        $this->expectException(UnclearCondition::class);
        $this->expectExceptionMessage($sentence);
        Conditions::fromArray($given)->rows(self::table()->column(...), 5);
    }

    public function testEachKindAnswersEachOfItsRelations(): void
    {
        $table = self::table();
        foreach ($table->columns() as $name => $column) {
            foreach (Relation::for($column->kind()) as $relation) {
                $first = (string) $column->text(0);
                $values = \array_slice([$first, $first], 0, $relation->values()[0]);
                $holds = (new Condition((string) $name, $relation, $values))->holds($column);
                self::assertCount(5, $holds);
                self::assertContains(
                    \in_array(
                        $relation,
                        [
                            Relation::Is,
                            Relation::AtLeast,
                            Relation::AtMost,
                            Relation::Between,
                            Relation::OneOf,
                            Relation::OnOrAfter,
                            Relation::OnOrBefore,
                            Relation::Contains,
                            Relation::Begins,
                            Relation::Present,
                        ],
                        true,
                    ),
                    [$holds[0]],
                );
            }
        }
    }
}
