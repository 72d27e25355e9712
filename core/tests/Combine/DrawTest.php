<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Combine;

use Dokimos\Core\Combine\Draw;
use Dokimos\Core\Combine\KnownCombinations;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Records drawn by chance: as many as asked for, none twice, and no set of them likelier than another. */
final class DrawTest extends TestCase
{
    /** @return iterable<string, array{int, int, int}> */
    public static function sizes(): iterable
    {
        yield 'some' => [1000, 300, 300];
        yield 'more than random numbers are fetched at once' => [20_000, 9_000, 9_000];
        yield 'one' => [1000, 1, 1];
        yield 'all but one' => [1000, 999, 999];
        yield 'all' => [1000, 1000, 1000];
        yield 'more than there are' => [7, 1000, 7];
        yield 'of nothing' => [0, 5, 0];
    }

    #[DataProvider('sizes')]
    public function testAsManyAsAskedForInTheirOrderAndNoneTwice(int $rows, int $records, int $comes): void
    {
        foreach ([1, 2, 3] as $seed) {
            $draw = new Draw($records, $seed);
            $drawn = iterator_to_array($draw->rows($rows), false);
            self::assertCount($comes, $drawn);
            self::assertSame($comes, $draw->count($rows));
            $sorted = array_values(array_unique($drawn));
            sort($sorted);
            self::assertSame($sorted, $drawn);
            self::assertSame([], array_filter($drawn, static fn (int $row): bool => $row < 0 || $row >= $rows));
            self::assertSame($drawn, iterator_to_array($draw->rows($rows), false), 'the same seed, the same records');
        }
    }

    public function testEachPairOfRecordsIsAsLikelyAsAnyOther(): void
    {
        // 10 pairs of 5 records; counts of 20,000 draws are held against 2,000 each: chi-square with 9 degrees of freedom.
        $counts = [];
        foreach (range(1, 20_000) as $seed) {
            $pair = implode(' ', iterator_to_array((new Draw(2, $seed))->rows(5), false));
            $counts[$pair] = ($counts[$pair] ?? 0) + 1;
        }
        self::assertCount(10, $counts);
        $distance = array_sum(array_map(static fn (int $n): float => ($n - 2000) ** 2 / 2000, $counts));
        self::assertLessThan(21.67, $distance, 'the 99th percentile');
        self::assertGreaterThan(1.0, $distance, 'drawn by chance, not in turns');
    }

    public function testAnotherSeedDrawsOthersAndAllOfThemCountAlike(): void
    {
        $one = iterator_to_array((new Draw(5000, 1))->rows(10_000), false);
        $two = iterator_to_array((new Draw(5000, 2))->rows(10_000), false);
        // Two halves drawn apart from each other have a quarter of the records in common, give or take 2 %.
        self::assertEqualsWithDelta(2500, \count(array_intersect($one, $two)), 100);
        self::assertEqualsWithDelta(4999.5, array_sum($one) / 5000, 120, 'neither early nor late records');
    }

    public function testIsKeptAndSaysWhatItDoes(): void
    {
        $draw = new Draw(1_000_000, 7);
        self::assertEquals($draw, KnownCombinations::fromArray($draw->toArray()));
        self::assertSame('draws 1,000,000 records by chance, with seed 7', $draw->sentence());
        self::assertSame(['km' => ['own' => ['km'], 'other' => []], '7' => ['own' => ['7'], 'other' => []]], $draw->origins(['km', '7']));
    }
}
