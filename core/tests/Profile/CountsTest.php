<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Profile;

use Dokimos\Core\Profile\LevelSummary;
use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Profile\Shape;
use Dokimos\Core\Profile\ValueCounts;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Counting in passing gives what counting all at once gives. */
final class CountsTest extends TestCase
{
    /** @return iterable<string, array{int, int}> different values, cells */
    public static function columns(): iterable
    {
        yield 'few' => [7, 3000];
        yield 'as many as cells' => [1000000, 5000];
        yield 'more than are counted one by one' => [60000, 70000];
        yield 'more than are kept packed, and they repeat' => [30000, 560_000];
        yield 'more than are kept packed, and they hardly repeat' => [1 << 30, 1_200_000];
    }

    #[DataProvider('columns')]
    public function testWhateverWayTheyComeValuesAreCounted(int $different, int $cells): void
    {
        mt_srand($different);
        $counts = new ValueCounts();
        $plain = [];
        $missing = 0;
        for ($at = 0; $at < $cells; $at += 1000) {
            $values = [];
            for ($i = 0; $i < 1000; ++$i) {
                $values[] = mt_rand(0, 19) > 18 ? \NAN : (mt_rand(0, $different) - $different / 2) / 4;
            }
            foreach ($values as $v) {
                is_nan($v) ? ++$missing : $plain[(string) $v] = ($plain[(string) $v] ?? 0) + 1;
            }
            // Every other block as pairs, the rest one by one.
            if (0 === $at % 2000) {
                $pairs = [];
                foreach ($values as $v) {
                    $pairs[] = [$v, 1];
                }
                $counts->addCounted($pairs);
            } else {
                $counts->add($values);
            }
        }
        [$values, $times] = $counts->sorted();
        ksort($plain, \SORT_NUMERIC);
        self::assertSame(array_map(floatval(...), array_keys($plain)), $values);
        self::assertSame(array_values($plain), $times);
        self::assertSame($missing, $counts->missing);
        $sorted = $values;
        sort($sorted);
        self::assertSame($sorted, $values);
    }

    public function testNothingGivesNothing(): void
    {
        $counts = new ValueCounts();
        $counts->add([]);
        $counts->add([\NAN, \NAN]);
        self::assertSame([[], []], $counts->sorted());
        self::assertSame(2, $counts->missing);
        self::assertSame([], Shape::ofNumbers([], []));
        self::assertNull(NumberSummary::of([\NAN])->figure('mean'));
    }

    public function testQuantilesAreThoseOfTheListWrittenOut(): void
    {
        mt_srand(3);
        for ($round = 0; $round < 40; ++$round) {
            $cells = [];
            for ($i = mt_rand(1, 60); $i > 0; --$i) {
                $cells[] = (float) mt_rand(-5, 5);
            }
            sort($cells);
            $byValue = [];
            foreach ($cells as $c) {
                $byValue[(string) $c] = ($byValue[(string) $c] ?? 0) + 1;
            }
            $shares = [0.0, 0.05, 0.25, 0.5, 0.75, 0.9, 1.0];
            $got = NumberSummary::quantiles(
                array_map(floatval(...), array_keys($byValue)),
                array_values($byValue),
                \count($cells),
                $shares,
            );
            foreach ($shares as $k => $share) {
                // Hyndman and Fan 1996, definition 7.
                $h = $share * (\count($cells) - 1);
                $low = (int) floor($h);
                $expected = $cells[$low] + ($h - $low) * (($cells[$low + 1] ?? $cells[$low]) - $cells[$low]);
                self::assertEqualsWithDelta($expected, $got[$k], 1e-12);
            }
        }
    }

    public function testRobustDistanceNeedsASpread(): void
    {
        self::assertNull(NumberSummary::of([4.0, 4.0, 4.0])->robustZ(9.0));
        $summary = NumberSummary::of([1.0, 2.0, 3.0, 4.0, 100.0]);
        self::assertEqualsWithDelta(0.0, $summary->robustZ(3.0), 1e-12);
        self::assertGreaterThan(10.0, $summary->robustZ(100.0));
    }

    public function testLevelsAreOrderedByCountThenByBytes(): void
    {
        $summary = LevelSummary::fromCounts(['b' => 3, 'a' => 3, 'c' => 9, 'd' => 1, '7' => 3], 4, 3)->toArray();
        self::assertSame(['c', '7', 'a'], array_column($summary['top'], 'value'));
        self::assertSame([19, 4, 5, 'c'], [$summary['n'], $summary['missing'], $summary['distinct'], $summary['mode']]);
        self::assertEqualsWithDelta(9 / 19, $summary['top'][0]['share'], 1e-15);
        $entropy = 0.0;
        foreach ([3, 3, 9, 1, 3] as $c) {
            $entropy -= $c / 19 * log($c / 19, 2);
        }
        self::assertEqualsWithDelta($entropy, $summary['entropy_bits'], 1e-12);
    }

    public function testTheFirstOfManyLevelsAreTheSameAsAfterSortingAll(): void
    {
        mt_srand(6);
        $counts = [];
        for ($i = 0; $i < 3000; ++$i) {
            $counts['level '.$i] = mt_rand(1, 40);
        }
        $top = LevelSummary::fromCounts($counts, 0, 30)->toArray()['top'];
        uksort($counts, static fn (string $a, string $b) => $counts[$b] <=> $counts[$a] ?: strcmp($a, $b));
        self::assertSame(\array_slice(array_keys($counts), 0, 30), array_column($top, 'value'));
    }

    public function testAColumnOfNothingButMissingHasNoMode(): void
    {
        $summary = LevelSummary::fromCounts([], 7)->toArray();
        self::assertSame(['type' => 'text', 'n' => 0, 'missing' => 7, 'distinct' => 0], $summary);
    }

    /** @return iterable<string, array{list<float>, int}> values, and the most bins they may take */
    public static function shapes(): iterable
    {
        yield 'one value' => [[5.0], 1];
        yield 'two values' => [[0.0, 1.0], 26];
        yield 'whole numbers stand in bins of whole width' => [array_map(floatval(...), range(0, 23)), 26];
        yield 'a far outlier does not press the rest together' => [[...array_map(static fn (int $i) => $i / 10, range(0, 999)), 1e9], 30];
        yield 'below zero' => [array_map(static fn (int $i) => -$i / 3, range(200, 1)), 30];
        yield 'very small' => [array_map(static fn (int $i) => $i * 1e-9, range(1, 50)), 30];
    }

    /** @param list<float> $values */
    #[DataProvider('shapes')]
    public function testBinsHaveRoundEdgesAndHoldEverything(array $values, int $most): void
    {
        sort($values);
        $bins = Shape::ofNumbers($values, array_fill(0, \count($values), 2));
        self::assertSame(2 * \count($values), array_sum(array_column($bins, 'count')));
        self::assertLessThanOrEqual($most, \count($bins));
        foreach ($bins as $i => $bin) {
            if ($i > 0) {
                self::assertEqualsWithDelta($bins[$i - 1]['high'], $bin['low'], 1e-12, 'bins touch');
            }
        }
        if ($values === array_map(floor(...), $values) && \count($bins) > 1) {
            self::assertSame(floor($bins[0]['low']), $bins[0]['low']);
        }
    }
}
