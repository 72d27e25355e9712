<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Act;

use Dokimos\Core\Act\ActionList;
use Dokimos\Core\Act\Capacity;
use Dokimos\Core\Act\ComparisonGroup;
use Dokimos\Core\Act\Economics;
use Dokimos\Core\Act\EventTerms;
use Dokimos\Core\Act\MeasuredEffect;
use Dokimos\Core\Act\ReturnDraws;
use Dokimos\Core\Calibrate\Sigmoid;
use Dokimos\Core\Random;
use PHPUnit\Framework\TestCase;
use Random\Randomizer;

/** How far a return may lie from what is expected, and how the effect of acting is measured. */
final class ReturnDrawsTest extends TestCase
{
    /** @return array{list<float>, list<float>, list<float>} chances as a model gives them, true ones, and values */
    private static function month(int $n, Randomizer $random): array
    {
        $said = $true = $values = [];
        for ($i = 0; $i < $n; ++$i) {
            $s = -1.8 + 2.4 * (Random::share($random) + Random::share($random) - 1.0);
            $said[] = 1 / (1 + exp(-$s));
            // The model is a little too sure of itself.
            $true[] = 1 / (1 + exp(0.2 - 0.85 * $s));
            $values[] = 60 + 120 * Random::share($random);
        }

        return [$said, $true, $values];
    }

    public function testNinetyOfAHundredMonthsEndWithinTheInterval(): void
    {
        $random = Random::stream(11, 'months');
        [$said, $true] = self::month(1500, $random);
        $within = $withoutLine = 0;
        $months = 100;
        for ($k = 0; $k < $months; ++$k) {
            $came = array_map(static fn (float $p): float => (float) (Random::share($random) < $p), $true);
            $holds = Sigmoid::fit($came, $said);
            [$chances, $real, $values] = self::month(900, $random);
            $terms = new EventTerms($chances, $values, new Economics(6.5, 0.36, 1.0, 0.0, 1.0));
            $rows = ActionList::of($terms)->chosen(new Capacity(300));
            $works = 0.26 + 0.2 * Random::share($random);
            $return = 0.0;
            foreach ($rows as $row) {
                $event = Random::share($random) < $real[$row];
                $return += ($event ? (Random::share($random) < $works ? $values[$row] : 0.0) : -1.0) - 6.5;
            }
            $drawn = ReturnDraws::of($terms, $rows, [0.26, 0.46], $holds, $k);
            $within += $return >= $drawn->low && $return <= $drawn->high ? 1 : 0;
            $plain = ReturnDraws::of($terms, $rows, [0.36, 0.36], null, $k);
            $withoutLine += $return >= $plain->low && $return <= $plain->high ? 1 : 0;
        }
        // 100 months at 90 %: two standard errors are 6 points.
        self::assertGreaterThanOrEqual(0.83 * $months, $within);
        self::assertLessThanOrEqual(0.97 * $months, $within);
        self::assertLessThan(0.83 * $months, $withoutLine, 'taking chances and effect as they are says too much');
    }

    public function testLongListsAreDrawnInBandsThatSayTheSame(): void
    {
        [$chances, , $values] = self::month(250, Random::stream(12, 'months'));
        $short = new EventTerms($chances, $values, new Economics(6.5, 0.36, 0.9, 4.0, 2.0));
        $one = ReturnDraws::of($short, array_keys($chances), [0.36, 0.36], null, 1);
        // The same records once more, without a value that anyone would act for: nothing but the length changes.
        $long = new EventTerms([...$chances, 0.0], [...$values, 0.0], $short->economics);
        $other = ReturnDraws::of($long, range(0, 250), [0.36, 0.36], null, 1);
        $sd = sqrt($short->figures(array_keys($chances))->variance);
        self::assertEqualsWithDelta($one->low, $other->low + 6.5 + 2.0, 0.2 * $sd);
        self::assertEqualsWithDelta($one->high, $other->high + 6.5 + 2.0, 0.2 * $sd);
        $f = $short->figures(array_keys($chances));
        self::assertEqualsWithDelta($f->return - 1.645 * $sd, $one->low, 0.15 * $sd, 'outcomes alone: the normal interval');
        self::assertEqualsWithDelta($f->return + 1.645 * $sd, $one->high, 0.15 * $sd);
        self::assertEquals($one, ReturnDraws::of($short, array_keys($chances), [0.36, 0.36], null, 1), 'same seed, same draws');
    }

    public function testAComparisonGroupIsDrawnWithinDistrictsAndIsTheSameWhateverTheOrder(): void
    {
        $districts = array_map(static fn (int $i): string => 'district '.$i % 3, range(0, 119));
        $capacity = new Capacity(null, 30, $districts);
        $tie = static fn (int $r): string => 'record '.$r;
        $list = range(0, 119);
        $left = ComparisonGroup::drawn($list, 0.2, $capacity, $tie, 7);
        self::assertSame([10, 10, 10], array_values(array_count_values(array_map(static fn (int $r): string => $districts[$r], $left))));
        $same = ComparisonGroup::drawn(array_reverse($list), 0.2, $capacity, $tie, 7);
        sort($same);
        self::assertSame($left, $same);
        self::assertNotSame($left, ComparisonGroup::drawn($list, 0.2, $capacity, $tie, 8));
        $longer = (new Capacity(80))->lengthened(0.2);
        self::assertSame(100, $longer->most);
        self::assertCount(20, ComparisonGroup::drawn(range(0, 99), 0.2, new Capacity(80), $tie, 1));
    }

    public function testTheSmallestVisibleEffectIsSeenInFourOfFiveDraws(): void
    {
        $works = ComparisonGroup::visible(1200, 400, 0.4);
        self::assertNotNull($works);
        $random = Random::stream(4, 'visible');
        $count = static function (int $n, float $p) use ($random): int {
            $hits = 0;
            for ($i = 0; $i < $n; ++$i) {
                $hits += Random::share($random) < $p ? 1 : 0;
            }

            return $hits;
        };
        $seen = $covered = 0;
        for ($k = 0; $k < 400; ++$k) {
            $effect = MeasuredEffect::of(1200, $count(1200, 0.4 * (1 - $works)), 400, $count(400, 0.4));
            $seen += $effect->works->low > 0.0 ? 1 : 0;
            $covered += $effect->works->low <= $works && $effect->works->high >= $works ? 1 : 0;
        }
        self::assertEqualsWithDelta(0.8, $seen / 400, 0.07);
        self::assertEqualsWithDelta(0.95, $covered / 400, 0.04);
        self::assertNull(ComparisonGroup::visible(10, 2, 0.1), 'two records show nothing');
    }

    public function testAMeasuredEffectOutsideTheStatedRangeIsSaid(): void
    {
        $effect = MeasuredEffect::of(1000, 380, 500, 200);
        self::assertEqualsWithDelta(0.05, $effect->works->value, 1e-12);
        self::assertTrue($effect->contradicts([0.3, 0.5]));
        self::assertFalse($effect->contradicts([0.0, 0.5]));
        $none = MeasuredEffect::of(20, 0, 20, 8);
        self::assertSame(1.0, $none->works->value);
        self::assertLessThan(1.0, $none->works->low);
        self::assertNull(MeasuredEffect::of(20, 3, 20, 0)->works->value, 'no event to compare with');
    }
}
