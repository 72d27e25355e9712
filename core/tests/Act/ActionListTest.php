<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Act;

use Dokimos\Core\Act\ActionList;
use Dokimos\Core\Act\ActionListReport;
use Dokimos\Core\Act\Capacity;
use Dokimos\Core\Act\ClassTerms;
use Dokimos\Core\Act\Economics;
use Dokimos\Core\Act\EventTerms;
use Dokimos\Core\Act\Tiers;
use Dokimos\Core\Act\WrongEdges;
use Dokimos\Core\Random;
use Dokimos\Core\Tests\Files;
use Dokimos\Core\Tests\Same;
use PHPUnit\Framework\TestCase;

/** Records ordered by what acting on them returns. */
final class ActionListTest extends TestCase
{
    public function testTheReferenceCase(): void
    {
        $table = Files::table(Files::folder('action-list').'/data.csv');
        $expected = Files::expected('action-list');
        /**
         * @var array{
         *     cost_per_action: float,
         *     response_share: float,
         *     capacity: int,
         *     chance_cuts: list<float>,
         *     value_cuts: list<float>,
         *     flat_value: float
         * } $p
         */
        $p = $expected['parameters'];
        unset($expected['parameters']);
        $ids = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $ids[] = (string) $table->column('id')->text($row);
        }
        $terms = new EventTerms(
            $table->number('chance')->values,
            $table->number('value')->values,
            new Economics($p['cost_per_action'], $p['response_share']),
        );
        $tiers = new Tiers($p['chance_cuts'], $p['value_cuts']);
        Same::as($expected, ActionListReport::of($terms, $ids, $p['capacity'], $tiers, $p['flat_value']), 1e-9);
    }

    /** @return array{list<float>, list<float>} */
    private static function records(int $n, int $seed): array
    {
        $random = Random::stream($seed, 'records');
        $chances = $values = [];
        for ($i = 0; $i < $n; ++$i) {
            // Few different ones, so that many return the same.
            $chances[] = 0 === $random->getInt(0, 20) ? \NAN : $random->getInt(0, 10) / 10;
            $values[] = 0 === $random->getInt(0, 20) ? \NAN : 50.0 * $random->getInt(0, 4);
        }

        return [$chances, $values];
    }

    public function testTheListIsTheSameWhateverTheOrderOfTheRows(): void
    {
        [$chances, $values] = self::records(300, 5);
        $economics = new Economics(4.0, 0.4, 0.9, 2.0, 1.0);
        $names = array_map(static fn (int $i): string => 'record '.$i, array_keys($chances));
        $one = ActionList::of(new EventTerms($chances, $values, $economics), static fn (int $r): string => $names[$r]);
        $order = Random::stream(3, 'order')->shuffleArray(array_keys($chances));
        $take = static fn (array $of): array => array_map(static fn (int $i) => $of[$i], $order);
        $other = ActionList::of(
            new EventTerms($take($chances), $take($values), $economics),
            static fn (int $r): string => $names[$order[$r]],
        );
        $told = static fn (ActionList $list, array $of): array => array_map(static fn (int $r): string => $of[$r], $list->order);
        self::assertSame($told($one, $names), $told($other, $take($names)));
        self::assertSame($one->paying, $other->paying);
        self::assertLessThan(300, \count($one->order), 'what is not known is not on it');
        $last = \INF;
        foreach ($one->order as $row) {
            self::assertLessThanOrEqual($last, $one->returns[$row]);
            $last = $one->returns[$row];
        }
    }

    public function testMoreCapacityNeverLowersTheReturn(): void
    {
        [$chances, $values] = self::records(200, 6);
        $terms = new EventTerms($chances, $values, new Economics(9.0, 0.3));
        $list = ActionList::of($terms);
        $groups = array_map(static fn (int $i): string => 'day '.$i % 7, array_keys($chances));
        foreach ([null, $groups] as $by) {
            $last = 0.0;
            foreach ([0, 1, 2, 3, 5, 8, 13, 40, 200, null] as $room) {
                $capacity = null === $by ? new Capacity($room) : new Capacity(null, $room, $by);
                $rows = $list->chosen($capacity);
                $return = $terms->figures($rows)->return;
                self::assertGreaterThanOrEqual($last - 1e-9, $return);
                $last = $return;
                [$paying, $actions, $outlook] = ActionList::outlook($terms, $capacity);
                self::assertSame([$list->paying, \count($rows)], [$paying, $actions]);
                self::assertEqualsWithDelta($return, $outlook, 1e-9);
                if (null !== $room) {
                    $counts = null === $by ? [\count($rows)] : array_count_values(array_map(static fn (int $r): string => $by[$r], $rows));
                    self::assertLessThanOrEqual($room, max([0, ...$counts]));
                }
            }
            self::assertEqualsWithDelta($terms->figures($list->worthwhile())->return, $last, 1e-9, 'no limit takes all that pay');
        }
    }

    public function testWhatIsKeptOfAListIsTheListItself(): void
    {
        [$chances, $values] = self::records(5000, 11);
        $terms = new EventTerms($chances, $values, new Economics(9.0, 0.3));
        $list = ActionList::of($terms);
        $again = ActionList::inOrder($terms, $list->order);
        self::assertSame([$list->order, $list->paying, $list->sums()], [$again->order, $again->paying, $again->sums()]);
        $highest = array_keys(array_filter($chances, is_finite(...)));
        usort($highest, static fn (int $a, int $b): int => $chances[$b] <=> $chances[$a]);
        $best = $list->bestCutOff($chances);
        $same = $list->bestCutOff($chances, $highest);
        self::assertSame($best['cutoff'], $same['cutoff']);
        self::assertEqualsCanonicalizing($best['rows'], $same['rows']);
        $tiers = new Tiers([0.3, 0.6], [60.0, 120.0]);
        self::assertSame(
            array_map(static fn (array $c): array => array_map(\count(...), $c), $tiers->cells($chances, $values, $list->order)),
            $tiers->counts($chances, $values, $list->order),
        );
        // Only those that can be among the first are sorted: the sum is that of all sorted.
        foreach ([0, 1, 7, 100, 3000] as $most) {
            $first = array_map(static fn (int $row): float => $list->returns[$row], $list->chosen(new Capacity($most)));
            self::assertSame((float) array_sum($first), ActionList::outlook($terms, new Capacity($most))[2]);
        }
    }

    public function testTiersAddUpAndAnEdgeMovesOnlyItsNeighbors(): void
    {
        [$chances, $values] = self::records(400, 7);
        $known = array_keys(array_filter(
            $chances,
            static fn (float $p, int $i): bool => !is_nan($p + $values[$i]),
            \ARRAY_FILTER_USE_BOTH,
        ));
        $terms = new EventTerms($chances, $values, new Economics(6.0, 0.35));
        $before = (new Tiers([0.3, 0.6, 0.8], [60.0, 120.0]))->cells($chances, $values, $known);
        $after = (new Tiers([0.3, 0.5, 0.8], [60.0, 120.0]))->cells($chances, $values, $known);
        $all = array_merge(...array_merge(...$before));
        sort($all);
        self::assertSame($known, $all, 'each record in exactly one');
        self::assertEqualsWithDelta(
            $terms->figures($known)->return,
            array_sum(array_map(static fn (array $c): float => array_sum(array_map(
                static fn (array $rows): float => $terms->figures($rows)->return,
                $c,
            )), $before)),
            1e-9,
        );
        self::assertSame($before[0], $after[0]);
        self::assertSame($before[3], $after[3]);
        foreach ([0, 1, 2] as $v) {
            foreach (array_diff($after[2][$v], $before[2][$v]) as $moved) {
                self::assertGreaterThanOrEqual(0.5, $chances[$moved]);
                self::assertLessThan(0.6, $chances[$moved]);
            }
        }
        $ranks = array_map(
            static fn (int $c): array => array_map(static fn (int $v): int => (new Tiers([0.2, 0.4], [1.0, 2.0]))->rank($c, $v), [2, 1, 0]),
            [2, 1, 0],
        );
        self::assertSame([[1, 1, 2], [2, 3, 4], [4, 4, 4]], $ranks);
        self::assertSame([3, 2, 1], array_map(static fn (int $c): int => (new Tiers([0.2, 0.4], []))->rank($c, 0), [0, 1, 2]));
        $this->expectException(WrongEdges::class);
        new Tiers([0.5, 0.5], []);
    }

    public function testMoneyIsAsTheDefinitionSays(): void
    {
        $economics = new Economics(5.0, 0.4, 0.8, 10.0, 3.0);
        $expected = 0.3 * 0.4 * (0.8 * 200 - 10) - 5 - 0.7 * 3;
        self::assertEqualsWithDelta($expected, $economics->expected(0.3, 200.0), 1e-12);
        $even = $economics->breakEven(200.0);
        self::assertNotNull($even);
        self::assertEqualsWithDelta(0.0, $economics->expected($even, 200.0), 1e-12);
        self::assertNull($economics->breakEven(12.0), 'what it keeps is less than success costs');
        // All outcomes of one record, weighed.
        $outcomes = [[0.12, 150.0 - 5], [0.18, -5.0], [0.7, -8.0]];
        $mean = array_sum(array_map(static fn (array $o): float => $o[0] * $o[1], $outcomes));
        $variance = array_sum(array_map(static fn (array $o): float => $o[0] * ($o[1] - $mean) ** 2, $outcomes));
        self::assertEqualsWithDelta($mean, $economics->expected(0.3, 200.0), 1e-12);
        self::assertEqualsWithDelta($variance, $economics->variance(0.3, 200.0), 1e-9);
        $many = new EventTerms([0.3, 0.8], [200.0, 15.0], $economics);
        self::assertEqualsWithDelta([$expected, $economics->expected(0.8, 15.0)], $many->returns(), 1e-12);
        self::assertEqualsWithDelta($variance + $economics->variance(0.8, 15.0), $many->figures([0, 1])->variance, 1e-9);
    }

    public function testOfSeveralClassesEachRecordGetsTheActionThatBringsMost(): void
    {
        $shares = [[0.7, 0.2, 0.1], [0.1, 0.8, 0.1], [], [0.34, 0.33, 0.33]];
        // Bring the part along; call before.
        $terms = new ClassTerms($shares, [[-10.0, 60.0, -10.0], [-4.0, -4.0, 40.0]], [0.0, 0.0, 0.0]);
        self::assertSame([0, 0, -1, 0], $terms->actions);
        $list = ActionList::of($terms);
        self::assertSame([1, 3, 0], $list->order);
        self::assertEqualsWithDelta(0.7 * -10 + 0.2 * 60 - 0.1 * 10, $list->returns[0], 1e-12);
        $f = $terms->figures([1]);
        self::assertEqualsWithDelta(0.2 * 100 + 0.8 * 3600 - 46.0 ** 2, $f->variance, 1e-9);
        $this->expectException(WrongEdges::class);
        new ClassTerms($shares, [[1.0]], [0.0, 0.0, 0.0]);
    }
}
