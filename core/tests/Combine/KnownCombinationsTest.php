<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Combine;

use Dokimos\Core\Combine\CannotCombine;
use Dokimos\Core\Combine\KnownCombinations;
use Dokimos\Core\Combine\Reshaping;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class KnownCombinationsTest extends TestCase
{
    private static function visits(): Table
    {
        $day = DateColumn::DAY;

        return Table::of([
            'house' => new TextColumn(['H1', 'H2', 'H1', null, 'H3', 'H1'], Kind::Identifier),
            'km' => new NumberColumn([5.0, 7.0, \NAN, 1.0, \NAN, 9.0]),
            'when' => new DateColumn([3 * $day, $day, 5 * $day, 0, DateColumn::MISSING, 5 * $day]),
            'outcome' => CodedColumn::fromCells(['fixed', 'no access', 'no access', 'fixed', null, 'fixed']),
            '7' => new NumberColumn([1.0, 2.0, 3.0, 4.0, 5.0, 6.0]),
        ]);
    }

    private static function houses(): Table
    {
        return Table::of([
            'id' => new TextColumn(['H2', 'H1', 'H1', 'H9'], Kind::Identifier),
            'km' => new NumberColumn([20.0, 10.0, 11.0, 90.0]),
            'tenure' => CodedColumn::fromCells(['owner', 'tenant', 'owner', 'owner']),
            'since' => new DateColumn([0, 86400, 1, 2]),
            'note' => new TextColumn(['b', 'a', 'c', null]),
        ]);
    }

    /** @return array<array-key, list<?string>> */
    private static function cells(Table $table): array
    {
        return array_map(static fn ($c) => array_map($c->text(...), range(0, $table->rows - 1)), $table->columns());
    }

    public function testLookingUpKeepsEveryRecordAndMultipliesNone(): void
    {
        $combination = KnownCombinations::fromArray([
            'kind' => 'look up',
            'key' => 'house',
            'otherKey' => 'id',
            'columns' => ['km', 'tenure', 'since', 'note'],
        ]);
        \assert($combination instanceof Reshaping);
        $toll = $combination->toll(self::visits(), self::houses());
        self::assertSame(
            [6, 6, 5, 9, 1, 1, 1],
            [
                $toll->rowsBefore,
                $toll->rowsAfter,
                $toll->columnsBefore,
                $toll->columnsAfter,
                $toll->unmatched,
                $toll->keyless,
                $toll->multiplied,
            ],
        );
        $cells = self::cells($combination->apply(self::visits(), self::houses()));
        self::assertSame(
            ['house', 'km', 'when', 'outcome', '7', 'km_2', 'tenure', 'since', 'note'],
            array_map(strval(...), array_keys($cells)),
        );
        self::assertSame(['10', '20', '10', null, null, '10'], $cells['km_2']);
        self::assertSame(['tenant', 'owner', 'tenant', null, null, 'tenant'], $cells['tenure']);
        self::assertSame(['a', 'b', 'a', null, null, 'a'], $cells['note']);
        self::assertSame('looks up km, tenure, since and note where house is its id', $combination->sentence());
        self::assertEquals($combination, KnownCombinations::fromArray($combination->toArray()));
    }

    public function testGathering(): void
    {
        $combination = KnownCombinations::fromArray([
            'kind' => 'gather',
            'key' => 'house',
            'figures' => [
                ['how' => 'count'],
                ['how' => 'sum', 'column' => 'km'],
                ['how' => 'mean', 'column' => 'km'],
                ['how' => 'min', 'column' => 'km'],
                ['how' => 'max', 'column' => 'when'],
                ['how' => 'share', 'column' => 'outcome', 'value' => 'no access'],
                ['how' => 'latest', 'column' => 'outcome', 'by' => 'when'],
                ['how' => 'max', 'column' => '7'],
            ],
        ]);
        \assert($combination instanceof Reshaping);
        $toll = $combination->toll(self::visits(), null);
        self::assertSame([6, 3, 9, 1], [$toll->rowsBefore, $toll->rowsAfter, $toll->columnsAfter, $toll->keyless]);
        self::assertSame([
            'house' => ['H1', 'H2', 'H3'], 'records' => ['3', '1', '1'], 'sum_km' => ['14', '7', null], 'mean_km' => ['7', '7', null], 'min_km' => ['5', '7', null],
            'max_when' => ['1970-01-06', '1970-01-02', null], 'share_outcome_no_access' => ['0.333333', '1', null], 'latest_outcome' => ['fixed', 'no access', null], 'max_7' => ['6', '2', '5'],
        ], array_map(static fn (array $c) => array_map(static fn (?string $v) => null === $v || !is_numeric($v) ? $v : (string) round((float) $v, 6), $c), self::cells($combination->apply(self::visits(), null))));
        self::assertEquals($combination, KnownCombinations::fromArray($combination->toArray()));
    }

    /** @return iterable<array{array<string, mixed>, string}> */
    public static function impossible(): iterable
    {
        $gather = static fn (array $figure): array => ['kind' => 'gather', 'key' => 'house', 'figures' => [$figure]];
        yield [['kind' => 'stir'], 'A combination looks up, gathers or draws.'];
        yield [['kind' => 'draw'], 'Draw at least one record.'];
        yield [['kind' => 'draw', 'records' => 'many'], 'Records is a whole number.'];
        yield [['kind' => 'draw', 'records' => 5, 'seed' => 1.5], 'Seed is a whole number.'];
        yield [['kind' => 'look up', 'otherKey' => 'id', 'columns' => ['km']], 'Say the key.'];
        yield [['kind' => 'look up', 'key' => 'house', 'columns' => ['km']], 'Say the other key.'];
        yield [['kind' => 'look up', 'key' => 'house', 'otherKey' => 'id', 'columns' => []], 'Choose the columns to look up.'];
        yield [['kind' => 'look up', 'key' => 'house', 'otherKey' => 'id', 'columns' => [3]], 'Columns are named by text.'];
        yield [['kind' => 'look up', 'key' => 'nowhere', 'otherKey' => 'id', 'columns' => ['km']], 'There is no column nowhere.'];
        yield [['kind' => 'look up', 'key' => 'house', 'otherKey' => 'id', 'columns' => ['age']], 'There is no column age.'];
        yield [['kind' => 'gather', 'key' => 'house'], 'Choose what is gathered.'];
        yield [$gather(['how' => 'mode', 'column' => 'km']), '"mode" is no way to gather'];
        yield [$gather(['how' => 'sum']), '"sum" needs a column.'];
        yield [$gather(['how' => 'share', 'column' => 'outcome']), '"share" needs a column and a value.'];
        yield [$gather(['how' => 'latest', 'column' => 'outcome']), '"latest" needs a column and a date.'];
        yield [$gather(['how' => 'latest', 'column' => 'outcome', 'by' => 'km']), 'km is no date'];
        yield [$gather(['how' => 'sum', 'column' => 'outcome']), 'outcome holds category: there is no sum of it.'];
        yield [['kind' => 'gather', 'key' => 'house', 'figures' => ['km']], 'A figure is said by how'];
    }

    /** @param array<string, mixed> $data */
    #[DataProvider('impossible')]
    public function testSaysWhatCannotBe(array $data, string $sentence): void
    {
        $this->expectException(CannotCombine::class);
        $this->expectExceptionMessage($sentence);
        $combination = KnownCombinations::fromArray($data);
        \assert($combination instanceof Reshaping);
        $combination->apply(self::visits(), self::houses());
    }
}
