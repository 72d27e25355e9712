<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Combine;

use Dokimos\Core\Combine\CannotCombine;
use Dokimos\Core\Combine\KnownCombinations;
use Dokimos\Core\Combine\LookUp;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\TestCase;

/** Columns looked up by a key: every record stays in its place, and what it costs is counted. */
final class LookUpTest extends TestCase
{
    private static function visits(): Table
    {
        return Table::of([
            'house' => new TextColumn(['A7', 'B2', 'C1', null, 'A7', 'D9'], Kind::Identifier),
            'area' => new NumberColumn([1.0, 2.0, 3.0, 4.0, 5.0, 6.0]),
        ]);
    }

    private static function houses(): Table
    {
        return Table::of([
            'id' => new TextColumn(['B2', 'A7', 'B2', null, 'E5'], Kind::Identifier),
            'area' => CodedColumn::fromCells(['south', 'north', 'east', 'west', 'far']),
            'rooms' => new NumberColumn([4.0, \NAN, 9.0, 2.0, 7.0]),
            'since' => new DateColumn([86_400, 172_800, 0, 0, 0]),
            'note' => new TextColumn(['red door', null, 'x', 'y', 'z']),
        ]);
    }

    /** @return list<?string> */
    private static function cells(Column $column): array
    {
        return array_map($column->text(...), range(0, $column->count() - 1));
    }

    public function testEachRecordGetsWhatBelongsToItsKeyAndNoneIsMultiplied(): void
    {
        $look = new LookUp('house', 'id', ['area', 'rooms', 'since', 'note']);
        $made = $look->apply(self::visits(), self::houses());
        self::assertSame(['house', 'area', 'area_2', 'rooms', 'since', 'note'], $made->names());
        self::assertSame(6, $made->rows);
        self::assertSame(['1', '2', '3', '4', '5', '6'], self::cells($made->column('area')), 'a column of its name stays what it was');
        // Of two houses with one key the first.
        self::assertSame(['north', 'south', null, null, 'north', null], self::cells($made->column('area_2')));
        self::assertSame([null, '4', null, null, null, null], self::cells($made->column('rooms')));
        self::assertSame(['1970-01-03', '1970-01-02', null, null, '1970-01-03', null], self::cells($made->column('since')));
        self::assertSame([null, 'red door', null, null, null, null], self::cells($made->column('note')));
        $again = KnownCombinations::fromArray($look->toArray());
        self::assertInstanceOf(LookUp::class, $again);
        self::assertSame(serialize($made), serialize($again->apply(self::visits(), self::houses())));
        self::assertSame('looks up area, rooms, since and note where house is its id', $again->sentence());
    }

    public function testItsTollIsCounted(): void
    {
        $toll = (new LookUp('house', 'id', ['area', 'rooms']))->toll(self::visits(), self::houses());
        self::assertSame(
            [6, 6, 2, 4],
            [$toll->rowsBefore, $toll->rowsAfter, $toll->columnsBefore, $toll->columnsAfter],
        );
        self::assertSame(
            ['unmatched' => 2, 'keyless' => 1, 'multiplied' => 1],
            ['unmatched' => $toll->unmatched, 'keyless' => $toll->keyless, 'multiplied' => $toll->multiplied],
        );
    }

    public function testWhatIsNotThereIsSaid(): void
    {
        foreach ([['door', 'id', ['area']], ['house', 'number', ['area']], ['house', 'id', ['roof']]] as [$key, $other, $columns]) {
            try {
                (new LookUp($key, $other, $columns))->apply(self::visits(), self::houses());
                self::fail('There is no such column.');
            } catch (CannotCombine $e) {
                self::assertMatchesRegularExpression('/no column (door|number|roof)/', $e->getMessage());
            }
        }
        $this->expectException(CannotCombine::class);
        (new LookUp('house', 'id', ['area']))->apply(self::visits(), null);
    }
}
