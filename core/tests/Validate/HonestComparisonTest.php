<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Validate;

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Figure\Rmse;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Figure\ShareExplained;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\LogRatio;
use Dokimos\Core\Measure\NumberJudgment;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Comparison;
use Dokimos\Core\Validate\FoldAnswers;
use Dokimos\Core\Validate\Luck;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Trials are compared on the same rows, for all pairs at once, and their intervals are those of the procedure. */
final class HonestComparisonTest extends TestCase
{
    /** @return array{list<float>, list<float>} outcome and a score that ranks it by so much */
    private static function drawn(int $rows, float $pull, int $seed, float $rate = 0.3): array
    {
        $random = new Randomizer(new Mt19937($seed));
        $y = $s = [];
        for ($i = 0; $i < $rows; ++$i) {
            $y[] = (float) ($random->getInt(0, 999) < 1000 * $rate);
            $s[] = 1 / (1 + exp(-($pull * ($y[$i] - $rate) + $random->getInt(-200, 200) / 100)));
        }

        return [$y, $s];
    }

    /**
     * @param list<float> $y
     * @param list<float> $s
     */
    private static function folds(array $y, array $s, int $folds = 5, ?int $units = null): FoldAnswers
    {
        $parts = array_fill(0, $folds, []);
        foreach (array_keys($y) as $row) {
            $parts[$row % $folds][] = $row;
        }

        return new FoldAnswers(
            Task::TWO,
            $y,
            [new Answers($s)],
            [array_values($parts)],
            [array_fill(0, $folds, [array_sum($y) / \count($y)])],
            array_fill(0, $folds, 1 / max(1, $folds - 1)),
            null,
            $units,
        );
    }

    public function testWhereThereIsNoAnswerTheBaselinesCountsAndPairsAreHeldOnTheRowsOfBoth(): void
    {
        [$y, $s] = self::drawn(600, 2.0, 1);
        $auc = Figures::ranking(Task::TWO);
        $full = self::folds($y, $s);
        // Answers only where the score is far from the middle: easy rows.
        $some = array_map(static fn (float $v): float => abs($v - 0.5) < 0.25 ? \NAN : $v, $s);
        $picky = self::folds($y, $some);
        $known = $picky->answered();
        self::assertGreaterThan(100, \count(array_filter($known, static fn (bool $k): bool => !$k)));
        $mean = static fn (array $each): float => array_sum($each) / \count($each);
        self::assertGreaterThan($mean($full->each($auc)), $mean($picky->each($auc, $known)), 'on its own rows it looks better');
        self::assertLessThan($mean($full->each($auc)), $mean($picky->each($auc)), 'on all rows it is not');
        self::assertSame($full->each($auc, $known), $picky->each($auc, $known), 'on the rows of both they are the same');
        self::assertSame(0.0, Comparison::ofFolds($full->each($auc, $known), $picky->each($auc, $known), 0.25)->difference ?? null);
    }

    public function testTheIntervalIsThatOfTheProcedureAndFewEventsOrGroupsHaveNone(): void
    {
        [$y, $s] = self::drawn(400, 1.0, 2);
        $rows = DeLong::of($y, $s)->interval();
        $auc = Figures::ranking(Task::TWO);
        $judged = self::folds($y, $s)->judged($auc, $rows);
        self::assertFalse($judged['pooled']);
        self::assertEqualsWithDelta(array_sum(array_filter($judged['each'])) / 5, $judged['interval']->value, 1e-12);
        self::assertEqualsWithDelta(
            sqrt(1 + 2.2 / 4),
            ($judged['interval']->high - $judged['interval']->low) / ($rows->high - $rows->low),
            1e-9,
        );
        self::assertNull(self::folds($y, $s, 5, 8)->judged($auc, $rows)['interval']->low, 'eight groups');
        [$y, $s] = self::drawn(400, 1.0, 3, 0.03);
        self::assertLessThan(25, array_sum($y));
        $few = self::folds($y, $s)->judged($auc, DeLong::of($y, $s)->interval());
        self::assertTrue($few['pooled']);
        self::assertEqualsWithDelta((new BinaryScores($y, $s))->auc(), $few['interval']->value, 1e-12);
    }

    public function testARealDifferenceOnOnePartIsSeenByPairs(): void
    {
        [$y, $s] = self::drawn(8000, 1.0, 4);
        $random = new Randomizer(new Mt19937(9));
        $worse = array_map(static fn (float $v): float => 0.8 * $v + 0.2 * $random->getInt(0, 1000) / 1000, $s);
        $auc = Figures::ranking(Task::TWO);
        [$a, $b] = [DeLong::of($y, $s)->interval(), DeLong::of($y, $worse)->interval()];
        $test = Comparison::ofRows($auc, $y, new Answers($s), new Answers($worse));
        self::assertNotNull($test);
        self::assertTrue($b->high > $a->low, 'intervals meet');
        self::assertFalse($test->isNoise(), 'and yet the two are told apart');
        self::assertTrue(Comparison::ofRows($auc, $y, new Answers($s), new Answers($s))?->isNoise());
        $loss = Comparison::ofRows(Figures::named(Task::TWO, 'log loss'), $y, new Answers($s), new Answers($worse));
        self::assertNotNull($loss);
        self::assertTrue($loss->low < $loss->difference && $loss->difference < $loss->high);
        $far = Comparison::ofRows($auc, $y, new Answers($s), new Answers($worse), null, 66);
        self::assertTrue(null !== $far && $far->low < $test->low && $far->p === $test->p && $far->adjusted > $test->p);
    }

    public function testAmongEqualTrialsHardlyAnyIsCalledWorseAndLuckIsAsLargeAsTheLeadersLead(): void
    {
        $auc = Figures::ranking(Task::TWO);
        $called = 0;
        $lead = $luck = 0.0;
        for ($run = 0; $run < 40; ++$run) {
            [$y] = self::drawn(300, 0.0, 100 + $run);
            \assert([] !== $y);
            $each = $answers = [];
            for ($t = 0; $t < 12; ++$t) {
                $random = new Randomizer(new Mt19937(1000 * $run + $t));
                $s = array_map(static fn (): float => $random->getInt(1, 9999) / 10000, $y);
                $answers[] = new Answers($s);
                $each[] = self::folds($y, $s)->each($auc);
            }
            usort($each, static fn (array $a, array $b): int => array_sum($b) <=> array_sum($a));
            $lead += array_sum($each[0]) / 5 - 0.5;
            $luck += Luck::of($auc, $y, $answers, $run);
            $pairs = Comparison::pairs(12);
            self::assertSame(66, $pairs);
            $called += \count(array_filter(
                \array_slice($each, 1),
                static fn (array $other): bool => !(Comparison::ofFolds($other, $each[0], 0.25, $pairs)?->isNoise() ?? true),
            )) > 0 ? 1 : 0;
        }
        self::assertLessThanOrEqual(3, $called);
        self::assertGreaterThan(0.03, $lead / 40, 'the best of twelve nothings looks good');
        self::assertEqualsWithDelta($lead / 40, $luck / 40, 0.025);
    }

    /** @return iterable<string, array{int}> */
    public static function events(): iterable
    {
        foreach ([3, 5, 8, 29, 30] as $n) {
            yield "$n events" => [$n];
        }
    }

    #[DataProvider('events')]
    public function testAPerfectRankingOfFewEventsIsNotCertain(int $events): void
    {
        $y = [...array_fill(0, $events, 1.0), ...array_fill(0, 100, 0.0)];
        $i = DeLong::of($y, array_map(static fn (int $k): float => (float) (500 - $k), range(0, $events + 99)))->interval();
        self::assertSame(1.0, $i->value);
        if ($events < 5) {
            self::assertNull($i->low);
        } elseif ($events < 30) {
            self::assertTrue($i->low < 1.0 && $i->low > 0.5 && 1.0 === $i->high);
        } else {
            self::assertSame(1.0, $i->low, 'DeLong has no error there');
        }
    }

    public function testWeightsThatAreCountsAreSoManyRecords(): void
    {
        [$y, $s] = self::drawn(80, 1.2, 7);
        $threefold = static fn (array $list): array => array_merge(...array_map(static fn (float $v): array => [$v, $v, $v], $list));
        $three = array_fill(0, 80, 3.0);
        self::assertEqualsWithDelta(
            array_values(DeLong::of($threefold($y), $threefold($s))->wald()->toArray()),
            array_values(DeLong::of($y, $s, $three, true)->wald()->toArray()),
            1e-12,
        );
        self::assertEqualsWithDelta(
            array_values(Interval::mean($threefold($s))->toArray()),
            array_values(Interval::mean($s, $three, true)->toArray()),
            1e-12,
        );
        self::assertEqualsWithDelta(
            array_values(Interval::mean($s)->toArray()),
            array_values(Interval::mean($s, $three)->toArray()),
            1e-12,
            'shares of a sample are not',
        );
    }

    public function testLongTailsLeanTheIntervalAndAreNamed(): void
    {
        $random = new Randomizer(new Mt19937(5));
        $normal = static fn (): float => sqrt(-2 * log($random->getInt(1, 999999) / 1000000)) * cos(2 * \M_PI * $random->getInt(1, 999999) / 1000000);
        $even = array_map($normal, range(1, 300));
        $long = array_map(static fn (): float => exp(1.5 * $normal()), range(1, 300));
        $zero = array_fill(0, 300, 0.0);
        $i = (new Rmse())->interval(new Sample($long, new Answers($zero)));
        self::assertGreaterThan(1.5 * ($i->value - $i->low), $i->high - $i->value, 'it may be much more, hardly less');
        self::assertLessThan(0.02, NumberJudgment::governing($long));
        self::assertGreaterThan(0.05, NumberJudgment::governing($even));
        self::assertNull(LogRatio::of([0.0, 0.0, 0.0]));
        $all = (new ShareExplained())->interval(new Sample($even, new Answers($even)));
        self::assertSame([1.0, 1.0], [$all->value, $all->low]);
        self::assertSame($i->high, (new Rmse())->interval(new Sample($long, new Answers($zero)))->high, 'seeded');
    }
}
