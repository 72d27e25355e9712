<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Act;

use Dokimos\Core\Act\ActionList;
use Dokimos\Core\Act\Capacity;
use Dokimos\Core\Act\Chosen;
use Dokimos\Core\Act\ClassTerms;
use Dokimos\Core\Act\ComparisonGroup;
use Dokimos\Core\Act\Economics;
use Dokimos\Core\Act\EventTerms;
use Dokimos\Core\Act\Limits;
use Dokimos\Core\Act\ListCells;
use Dokimos\Core\Act\ReturnDraws;
use Dokimos\Core\Act\Tiers;
use Dokimos\Core\Calibrate\Sigmoid;
use Dokimos\Core\Random;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What holds for every list, whatever its records and its money. */
final class PropertiesTest extends TestCase
{
    /** @return iterable<string, array{Economics, int}> */
    public static function money(): iterable
    {
        yield 'usual' => [new Economics(6.5, 0.36), 1];
        yield 'a part is kept' => [new Economics(6.5, 0.36, 0.6, 4.0), 2];
        yield 'acting in vain annoys' => [new Economics(2.0, 0.5, 1.0, 0.0, 3.0), 3];
        yield 'an action is free' => [new Economics(0.0, 0.2), 4];
        yield 'nothing works' => [new Economics(1.0, 0.0), 5];
        yield 'everything works' => [new Economics(1.0, 1.0), 6];
        yield 'nothing is worth it' => [new Economics(1e9, 0.5), 7];
    }

    private static function terms(Economics $economics, int $seed, int $n = 260): EventTerms
    {
        $random = Random::stream($seed, 'properties');
        $chances = array_map(static fn (float $u): float => $u ** 2, Random::shares($random, $n));
        $values = array_map(static fn (float $u): float => 250 * $u, Random::shares($random, $n));
        // Certain, impossible, worthless, unknown.
        [$chances[0], $chances[1], $values[2], $chances[3], $values[4]] = [0.0, 1.0, 0.0, \NAN, \NAN];

        return new EventTerms(array_values($chances), array_values($values), $economics);
    }

    #[DataProvider('money')]
    public function testNoOtherListOfThatLengthReturnsMore(Economics $economics, int $seed): void
    {
        $terms = self::terms($economics, $seed);
        $list = ActionList::of($terms);
        self::assertNotContains(3, $list->order);
        self::assertNotContains(4, $list->order);
        $random = Random::stream($seed, 'others');
        foreach ([1, 7, 40, 200] as $k) {
            $own = $terms->figures(\array_slice($list->order, 0, $k))->return;
            for ($try = 0; $try < 20; ++$try) {
                $other = \array_slice($random->shuffleArray($list->order), 0, $k);
                self::assertLessThanOrEqual($own + 1e-9, $terms->figures($other)->return);
            }
        }
        // No number of actions returns more than those that pay.
        $best = $terms->figures($list->worthwhile())->return;
        foreach ($list->sums() as $sum) {
            self::assertLessThanOrEqual($best + 1e-9, $sum);
        }
        self::assertGreaterThanOrEqual(0.0, $list->sums()[$list->deepest()]);
        self::assertEqualsWithDelta(array_sum(array_map(static fn (int $r): float => $list->returns[$r], $list->order)), $list->sums()[\count($list->order)], 1e-6);
    }

    #[DataProvider('money')]
    public function testThePlainCutOffIsTheBestOfAllCutOffs(Economics $economics, int $seed): void
    {
        $terms = self::terms($economics, $seed);
        $list = ActionList::of($terms);
        $best = $list->bestCutOff($terms->chances);
        $brute = 0.0;
        foreach ($list->order as $at) {
            $rows = array_values(array_filter($list->order, static fn (int $r): bool => $terms->chances[$r] >= $terms->chances[$at]));
            $brute = max($brute, $terms->figures($rows)->return);
        }
        $own = $terms->figures($best['rows']);
        self::assertEqualsWithDelta($brute, $own->return, 1e-6);
        self::assertSame(0 === $own->actions, null === $best['cutoff']);
        foreach ($best['rows'] as $row) {
            self::assertGreaterThanOrEqual($best['cutoff'], $terms->chances[$row]);
        }
    }

    #[DataProvider('money')]
    public function testWhatAListBearsBringsItToNothing(Economics $economics, int $seed): void
    {
        $terms = self::terms($economics, $seed);
        $rows = \array_slice(ActionList::of($terms)->order, 0, 60);
        $limits = Limits::of($terms, $rows);
        self::assertNotNull($limits->cost);
        self::assertEqualsWithDelta(0.0, $terms->under($economics->costing($limits->cost))->figures($rows)->return, 1e-6);
        if (null !== $limits->works) {
            $scale = 1 + $economics->cost * \count($rows);
            self::assertEqualsWithDelta(0.0, $terms->under($economics->working($limits->works))->figures($rows)->return, 1e-9 * $scale);
        }
        self::assertNull(Limits::of($terms, [])->cost);
    }

    #[DataProvider('money')]
    public function testWhoIsLeftUntouchedComesFromTheListAndAsManyAreActedOn(Economics $economics, int $seed): void
    {
        $terms = self::terms($economics, $seed);
        $list = ActionList::of($terms);
        $tie = static fn (int $r): string => 'record '.$r;
        foreach ([0.05, 0.2, 0.5] as $share) {
            foreach ([new Capacity(40), new Capacity(), new Capacity(0)] as $capacity) {
                $chosen = Chosen::of($list, $capacity, $share, $tie, $seed);
                self::assertSame([], array_intersect($chosen->acted, $chosen->left));
                self::assertSame([], array_diff([...$chosen->acted, ...$chosen->left], $list->worthwhile()));
                self::assertLessThanOrEqual($capacity->most ?? 1000, \count($chosen->acted));
                $long = \count($capacity->lengthened($share)->fit($list->worthwhile()));
                self::assertCount($long, $chosen->together($list));
                self::assertEqualsWithDelta($share * $long, \count($chosen->left), 1.0);
                $places = array_flip($list->order);
                $last = -1;
                foreach ($chosen->together($list) as $row) {
                    self::assertGreaterThan($last, $places[$row], 'in the order of the list');
                    $last = $places[$row];
                }
            }
        }
        self::assertSame([], Chosen::of($list, new Capacity(40), 0.0, $tie, 1)->left);
    }

    #[DataProvider('money')]
    public function testDrawsLieAroundWhatIsExpected(Economics $economics, int $seed): void
    {
        $terms = self::terms($economics, $seed);
        $rows = \array_slice(ActionList::of($terms)->order, 0, 80);
        $f = $terms->figures($rows);
        $drawn = ReturnDraws::of($terms, $rows, [$economics->works, $economics->works], null, $seed);
        $sd = sqrt($f->variance);
        self::assertLessThanOrEqual($f->return + 0.1 * $sd + 1e-6, $drawn->low);
        self::assertGreaterThanOrEqual($f->return - 0.1 * $sd - 1e-6, $drawn->high);
        self::assertLessThanOrEqual($drawn->preventedHigh, $drawn->preventedLow);
        // A wider range of the effect makes the range of the return no narrower.
        $wide = ReturnDraws::of($terms, $rows, [0.0, 1.0], null, $seed);
        self::assertGreaterThanOrEqual(0.9 * ($drawn->high - $drawn->low) - 1e-6, $wide->high - $wide->low);
        self::assertTrue($drawn->loss >= 0.0 && $drawn->loss <= 1.0);
    }

    public function testChancesThatDoNotHoldMoveTheDraws(): void
    {
        $random = Random::stream(6, 'holds');
        $said = array_map(static fn (float $u): float => 0.05 + 0.6 * $u, Random::shares($random, 4000));
        // Half as many events came as were said.
        $came = array_map(static fn (float $p): float => (float) (Random::share($random) < $p / 2), $said);
        $terms = self::terms(new Economics(3.0, 0.4), 6);
        $rows = \array_slice(ActionList::of($terms)->order, 0, 100);
        $plain = ReturnDraws::of($terms, $rows, [0.4, 0.4], null, 1);
        $held = ReturnDraws::of($terms, $rows, [0.4, 0.4], Sigmoid::fit($came, $said), 1);
        self::assertLessThan($plain->low, $held->low);
        self::assertLessThan($plain->high, $held->high);
        self::assertLessThan(0.75 * $plain->preventedHigh, $held->preventedHigh);
    }

    public function testOfSeveralClassesTheBestActionIsThatOfAllTries(): void
    {
        $random = Random::stream(8, 'classes');
        $shares = [];
        for ($i = 0; $i < 120; ++$i) {
            $own = Random::shares($random, 4);
            $shares[] = array_map(static fn (float $s): float => $s / array_sum($own), $own);
        }
        $amounts = [];
        for ($a = 0; $a < 3; ++$a) {
            $amounts[] = array_map(static fn (float $u): float => 60 * $u - 30, Random::shares($random, 4));
        }
        $nothing = [1.0, -4.0, 0.0, 2.0];
        $terms = new ClassTerms($shares, $amounts, $nothing);
        $list = ActionList::of($terms);
        $total = 0.0;
        foreach ($shares as $row => $own) {
            $all = array_map(static fn (array $of): float => array_sum(array_map(
                static fn (float $s, float $m, float $n): float => $s * ($m - $n),
                $own,
                $of,
                $nothing,
            )), $amounts);
            self::assertEqualsWithDelta(max($all), $list->returns[$row], 1e-12);
            self::assertEqualsWithDelta(max($all), $all[$terms->actions[$row]], 1e-12);
            $total += max(0.0, max($all));
        }
        self::assertEqualsWithDelta($total, $terms->figures($list->worthwhile())->return, 1e-9);
        self::assertGreaterThan(0.0, $terms->figures($list->worthwhile())->variance);
    }

    public function testASmallerEffectNeedsMoreRecordsToBeSeen(): void
    {
        $last = 1.0;
        foreach ([100, 400, 1600, 6400, 25600] as $n) {
            $works = ComparisonGroup::visible($n, $n, 0.3);
            self::assertNotNull($works);
            self::assertLessThan($last, $works);
            $last = $works;
        }
        self::assertLessThan(0.1, $last);
        self::assertNull(ComparisonGroup::visible(0, 100, 0.3));
        self::assertNull(ComparisonGroup::visible(100, 0, 0.3));
        self::assertNull(ComparisonGroup::visible(100, 100, 0.0));
    }

    public function testCapacityOfGroupsThatAreNotKnown(): void
    {
        $capacity = new Capacity(5, 2, ['a', null, 'a', 'a', null, null, 'b']);
        self::assertSame([0, 1, 2, 4, 6], $capacity->fit(range(0, 6)), 'those without a group are one');
        self::assertSame([], (new Capacity(null, 0, ['a', 'a']))->fit([0, 1]));
        self::assertSame([6, 5], (new Capacity(2))->fit([6, 5, 4]));
        $longer = $capacity->lengthened(0.5);
        self::assertSame([10, 4], [$longer->most, $longer->each]);
    }

    public function testAListSaysWhatItSaysInOneForm(): void
    {
        self::assertSame(
            ['place' => '3', 'assigned' => 'act', 'tier' => 'II', 'chance' => '0.333333', 'value' => '120.5', 'return' => '-4'],
            ListCells::of(3, false, 1 / 3, 120.5, -4.0, 2),
        );
        self::assertSame(['left untouched', null, null], array_values(array_intersect_key(ListCells::of(null, true, null, null, null, null), ['assigned' => 1, 'tier' => 1, 'chance' => 1])));
        self::assertSame('not on the list', ListCells::of(null, false, 0.1, 1.0, -1.0, 4)['assigned']);
        self::assertSame([0, 0], (new Tiers([], []))->of(0.9, 50.0));
        self::assertSame(1, (new Tiers([], []))->rank(0, 0), 'one band is one tier');
    }
}
