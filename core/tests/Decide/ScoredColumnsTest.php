<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Decide;

use Dokimos\Core\Decide\Remarks;
use Dokimos\Core\Decide\ScoredColumns;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Scored records are written frame by frame and read back as they were, whatever is predicted. */
final class ScoredColumnsTest extends TestCase
{
    /** @return iterable<string, array{string, list<string>, list<array<string, mixed>>, list<string>, int}> */
    public static function tasks(): iterable
    {
        $no = ['why' => 'age is missing', 'reasons' => ''];
        $yes = ['why' => null, 'reasons' => 'few days ahead (+0.4); the slot'];
        yield 'an event' => [Task::TWO, [], [
            ['chance' => 0.25] + $yes, ['chance' => null] + $no, ['chance' => 1.0] + $yes,
            ['chance' => 0.0, 'why' => null, 'reasons' => ''],
        ], ['back chance', 'because', 'not scored because'], 0];
        yield 'a number' => [Task::NUMBER, [], [
            ['chance' => null, 'number' => -3.5] + $yes, ['chance' => null, 'number' => null] + $no,
            ['chance' => null, 'number' => 1e300] + $yes,
        ], ['back predicted', 'because', 'not scored because'], 0];
        yield 'several classes' => [Task::MORE, ['low', 'mid', 'high'], [
            ['chance' => 0.5, 'class' => 'high', 'shares' => [0.2, 0.3, 0.5]] + $yes,
            ['chance' => null, 'class' => null, 'shares' => []] + $no,
            ['chance' => 0.9, 'class' => 'low', 'shares' => [0.9, 0.1, 0.0]] + $yes,
        ], [
            'back predicted', 'back chance', 'back chance of low', 'back chance of mid', 'back chance of high',
            'because', 'not scored because',
        ], 1];
    }

    /**
     * @param list<string> $classes
     * @param list<string> $names
     *
     * @phpstan-param list<array{
     *     chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string,
     * }> $lines
     */
    #[DataProvider('tasks')]
    public function testWhatIsWrittenIsReadBack(string $task, array $classes, array $lines, array $names, int $ordering): void
    {
        $columns = ScoredColumns::of('back', $task, $classes);
        self::assertSame($names, array_keys($columns->columns));
        self::assertSame($ordering, $columns->ordering());
        self::assertSame(Kind::Number, array_values($columns->columns)[$ordering][0], 'what records are ordered by is a number');
        $read = [];
        $code = static fn (int $kept): int => max(-1, $kept);
        foreach ($columns->frames($lines) as $place => $frame) {
            [$kind, $levels] = $columns->columns[$names[$place]];
            $rows = \count($lines);
            $read[$names[$place]] = match ($kind) {
                Kind::Number => new NumberColumn(FrameCodec::numbers($frame, $rows)),
                Kind::Category => new CodedColumn(array_map($code, FrameCodec::whole($frame, $rows)), $levels),
                default => new TextColumn(FrameCodec::texts($frame, $rows)),
            };
        }
        self::assertSame($lines, $columns->lines(Table::of($read, \count($lines))));
    }

    /** @return iterable<string, array{array{column: string, values: list<string>, rows: int}, string}> */
    public static function unseen(): iterable
    {
        $end = 'They are scored as if they were none of the known ones.';
        yield 'one value of one record' => [
            ['column' => 'slot', 'values' => ['night'], 'rows' => 1],
            "slot has a value never seen in training: night (1 record). $end",
        ];
        yield 'two of many' => [
            ['column' => 'slot', 'values' => ['night', 'noon'], 'rows' => 1200],
            "slot has 2 values never seen in training: night, noon (1,200 records). $end",
        ];
        yield 'more than are told' => [
            ['column' => 'depot', 'values' => ['a', 'b', 'c', 'd', 'e'], 'rows' => 9],
            "depot has 5 values never seen in training: a, b, c, d, … (9 records). $end",
        ];
        yield 'as many as are told' => [
            ['column' => 'depot', 'values' => ['a', 'b', 'c', 'd'], 'rows' => 9],
            "depot has 4 values never seen in training: a, b, c, d (9 records). $end",
        ];
    }

    /** @param array{column: string, values: list<string>, rows: int} $unseen */
    #[DataProvider('unseen')]
    public function testValuesNeverSeenAreSaid(array $unseen, string $says): void
    {
        self::assertSame($says, Remarks::unseen($unseen));
    }

    public function testOtherSpellingsAreSaid(): void
    {
        $begin = 'is written otherwise than in training and is read as the known value:';
        self::assertSame([], Remarks::spelled([]));
        self::assertSame([
            "slot $begin \"08 - 10\" as \"08-10\", \"7\" as \"07\".",
            "area $begin \"A\" as \"a\", \"B\" as \"b\", \"C\" as \"c\", \"D\" as \"d\", ….",
        ], Remarks::spelled([
            'slot' => ['08 - 10' => '08-10', '7' => '07'],
            'area' => ['A' => 'a', 'B' => 'b', 'C' => 'c', 'D' => 'd', 'E' => 'e'],
        ]));
    }
}
