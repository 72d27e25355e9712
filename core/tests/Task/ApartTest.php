<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Task;

use Dokimos\Core\Task\Apart;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/** Rows that belong together stay on one side, whatever is kept back. */
final class ApartTest extends TestCase
{
    private static function random(int $seed): Randomizer
    {
        return new Randomizer(new Xoshiro256StarStar($seed));
    }

    /** @return iterable<string, array{list<?string>}> of every row: the group, or none */
    public static function labels(): iterable
    {
        yield 'each by itself' => [array_map(static fn (int $i): string => "h$i", range(0, 99))];
        yield 'in threes' => [array_map(static fn (int $i): string => 'h'.intdiv($i, 3), range(0, 99))];
        yield 'some without' => [array_map(static fn (int $i): ?string => 0 === $i % 4 ? null : 'h'.$i % 30, range(0, 99))];
        yield 'one of most rows' => [array_map(static fn (int $i): string => $i < 70 ? 'large' : "h$i", range(0, 99))];
        yield 'names that are numbers' => [array_map(static fn (int $i): string => (string) ($i % 20), range(0, 99))];
        yield 'one of all' => [array_fill(0, 100, 'all')];
    }

    /** @param list<?string> $labels */
    #[DataProvider('labels')]
    public function testWholeGroupsAreKeptBackAndNeverAllOfThem(array $labels): void
    {
        $apart = new Apart(false, $labels);
        $rows = range(0, 99, 2);
        $largest = max(array_count_values(array_map(static fn (int $r): string => $labels[$r] ?? "row $r", $rows)));
        $drawn = [];
        for ($seed = 1; $seed <= 30; ++$seed) {
            $some = $apart->some($rows, 10, self::random($seed));
            self::assertSame([], array_diff($some, $rows));
            self::assertSame($some, array_values(array_unique($some)));
            self::assertLessThan(\count($rows), \count($some));
            self::assertLessThanOrEqual(10 + 0.5 * $largest, \count($some), 'about as many as asked for');
            $out = array_diff($rows, $some);
            foreach ($some as $row) {
                foreach (null === $labels[$row] ? [] : $out as $other) {
                    self::assertNotSame($labels[$row], $labels[$other]);
                }
            }
            $drawn[] = implode(',', $some);
        }
        if ($largest < 25) {
            self::assertGreaterThan(20, \count(array_unique($drawn)), 'drawn, not taken in order');
            self::assertGreaterThanOrEqual(10 - 0.5 * $largest, \count($some));
        }
    }

    /** @param list<?string> $labels */
    #[DataProvider('labels')]
    public function testPartsAreOfAboutOneSizeAndAGroupIsInOneOfThem(array $labels): void
    {
        $parts = (new Apart(false, $labels))->parts(range(0, 99), 4, self::random(3));
        self::assertCount(4, $parts);
        $all = array_merge(...$parts);
        sort($all);
        self::assertSame(range(0, 99), $all);
        $in = [];
        foreach ($parts as $p => $own) {
            foreach ($own as $row) {
                self::assertSame($p, $in[$labels[$row] ?? "row $row"] ??= $p);
            }
        }
        $largest = max(array_count_values(array_map(static fn (int $r): string => $labels[$r] ?? "row $r", range(0, 99))));
        $sizes = array_map(\count(...), $parts);
        // The next group always goes where the fewest rows are.
        self::assertLessThanOrEqual($largest, max($sizes) - min($sizes));
    }

    public function testOfMomentsTheLatestAreKeptBackAndRowsWithoutOneStay(): void
    {
        $moments = [500.0, null, 900.5, 100.0, 900.5, 1200.0, 1000.0, null, 99.0, 1e9];
        $apart = new Apart(true, $moments);
        foreach ([1 => [9], 2 => [9, 5], 3 => [9, 5, 6], 5 => [9, 5, 6, 2, 4]] as $many => $wanted) {
            self::assertSame($wanted, $apart->some(range(0, 9), $many, self::random(1)));
        }
        // A moment goes whole: half of it or more has to fit, and nothing earlier jumps the line.
        self::assertSame([9, 5, 6], $apart->some(range(0, 9), 4, self::random(1)));
        self::assertSame([], (new Apart(true, [null, null]))->some([0, 1], 1, self::random(1)));
        self::assertSame([], (new Apart(true, [7, 7, 7]))->some([0, 1, 2], 2, self::random(1)), 'never all of them');
    }
}
