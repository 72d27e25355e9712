<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Measure;

use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\Calibration;
use Dokimos\Core\Measure\Confusion;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\McNemar;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Figures against plain counting, on scores with and without ties. */
final class BinaryPropertiesTest extends TestCase
{
    /** @return array{list<float>, list<float>} events and chances that go together */
    private static function data(int $seed, int $n, int $steps): array
    {
        mt_srand($seed);
        $event = $score = [];
        for ($i = 0; $i < $n; ++$i) {
            $chance = mt_rand(1, $steps - 1) / $steps;
            $event[] = (float) (mt_rand() / mt_getrandmax() < $chance);
            $score[] = $chance;
        }

        return [$event, $score];
    }

    /** @return iterable<string, array{int, int, int}> */
    public static function sets(): iterable
    {
        yield 'many ties' => [1, 200, 5];
        yield 'some ties' => [2, 300, 40];
        yield 'hardly a tie' => [3, 150, 1000000];
        yield 'a handful' => [4, 12, 10];
    }

    #[DataProvider('sets')]
    public function testEveryCutOffCountsWhatIsThere(int $seed, int $n, int $steps): void
    {
        [$event, $score] = self::data($seed, $n, $steps);
        $scores = new BinaryScores($event, $score);
        $cutoffs = [0.0, 0.25, 0.5, 0.501, 0.9, 1.0, ...\array_slice($score, 0, 5)];
        foreach ($scores->atAll($cutoffs) as $i => $confusion) {
            $count = [0, 0, 0, 0];
            foreach ($event as $r => $e) {
                ++$count[($score[$r] >= $cutoffs[$i] ? 0 : 2) + ($e > 0.5 ? 0 : 1)];
            }
            self::assertSame(
                array_map(floatval(...), $count),
                [$confusion->tp, $confusion->fp, $confusion->fn, $confusion->tn],
                "cut-off $cutoffs[$i]",
            );
            self::assertEquals($confusion, $scores->at($cutoffs[$i]));
        }
    }

    #[DataProvider('sets')]
    public function testTheCurveRisesAndItsAreaIsTheAuc(int $seed, int $n, int $steps): void
    {
        [$event, $score] = self::data($seed, $n, $steps);
        $scores = new BinaryScores($event, $score);
        $points = $scores->rocPoints();
        $area = 0.0;
        foreach ($points as $i => $p) {
            if ($i > 0) {
                $q = $points[$i - 1];
                [$x, $y, $x0, $y0] = [
                    (float) array_values($p)[1],
                    (float) array_values($p)[2],
                    (float) array_values($q)[1],
                    (float) array_values($q)[2],
                ];
                self::assertGreaterThanOrEqual($x0, $x);
                self::assertGreaterThanOrEqual($y0, $y);
                $area += ($x - $x0) * ($y + $y0) / 2;
            }
        }
        self::assertEqualsWithDelta((float) $scores->auc(), $area, 1e-12);
        self::assertLessThanOrEqual(52, \count($scores->rocCurve(50)), 'a picture needs no more');
    }

    #[DataProvider('sets')]
    public function testOrderIsAllThatAucAndItsIntervalKnow(int $seed, int $n, int $steps): void
    {
        [$event, $score] = self::data($seed, $n, $steps);
        $bent = array_map(static fn (float $s) => exp(3 * $s) - 7, $score);
        $plain = DeLong::of($event, $score);
        self::assertEqualsWithDelta($plain->auc, DeLong::of($event, $bent)->auc, 1e-14);
        self::assertEqualsWithDelta($plain->variance(), DeLong::of($event, $bent)->variance(), 1e-14);
        $turned = DeLong::of($event, array_map(static fn (float $s) => -$s, $score));
        self::assertEqualsWithDelta(1 - $plain->auc, $turned->auc, 1e-14);
        self::assertEqualsWithDelta($plain->variance(), $turned->variance(), 1e-14);
        $interval = $plain->interval();
        self::assertTrue($interval->low <= $plain->auc && $plain->auc <= $interval->high && $interval->low >= 0.0 && $interval->high <= 1.0);
    }

    #[DataProvider('sets')]
    public function testTheBestF1AndKsAreFoundAmongAllCutOffs(int $seed, int $n, int $steps): void
    {
        [$event, $score] = self::data($seed, $n, $steps);
        $scores = new BinaryScores($event, $score);
        $f1 = $ks = 0.0;
        foreach (array_unique($score) as $cutoff) {
            $figures = $scores->at($cutoff)->toArray();
            $f1 = max($f1, (float) $figures['f1']);
            $ks = max($ks, (float) $figures['recall'] - (1 - (float) $figures['specificity']));
        }
        self::assertContainsEquals(round($f1, 12), array_map(static fn ($v) => round((float) $v, 12), $scores->bestF1()));
        self::assertContainsEquals(round($ks, 12), array_map(static fn ($v) => round((float) $v, 12), $scores->ks()));
    }

    #[DataProvider('sets')]
    public function testTenthsHoldEveryRecordOnceAndRowOrderDoesNotMatter(int $seed, int $n, int $steps): void
    {
        [$event, $score] = self::data($seed, $n, $steps);
        $gains = (new BinaryScores($event, $score))->gains();
        self::assertSame($n, array_sum(array_column($gains, 'n')));
        self::assertEqualsWithDelta(array_sum($event), array_sum(array_column($gains, 'positives')), 1e-9);
        self::assertEqualsWithDelta(1.0, $gains[\count($gains) - 1]['cumulative_gain'], 1e-12);
        self::assertEqualsWithDelta(1.0, $gains[\count($gains) - 1]['cumulative_lift'], 1e-12);
        $order = array_keys($event);
        shuffle($order);
        $shuffled = (new BinaryScores(
            array_map(static fn (int $i) => $event[$i], $order),
            array_map(static fn (int $i) => $score[$i], $order),
        ))->gains();
        foreach ($gains as $k => $tenth) {
            self::assertEqualsWithDelta($tenth['positives'], $shuffled[$k]['positives'], 1e-9);
        }
    }

    #[DataProvider('sets')]
    public function testLossesAreMeansOfTheirRows(int $seed, int $n, int $steps): void
    {
        [$event, $score] = self::data($seed, $n, $steps);
        $scores = new BinaryScores($event, $score);
        $log = $square = 0.0;
        foreach ($event as $i => $e) {
            $log -= ($e > 0.5 ? log($score[$i]) : log(1 - $score[$i])) / $n;
            $square += ($e - $score[$i]) ** 2 / $n;
        }
        self::assertEqualsWithDelta($log, $scores->logLoss(), 1e-12);
        self::assertEqualsWithDelta($square, $scores->brier(), 1e-12);
        self::assertCount($n, $scores->logLosses());
    }

    public function testChancesOfNoughtAndOneGiveFiniteLosses(): void
    {
        $losses = (new BinaryScores([1.0, 0.0, 1.0, 0.0], [0.0, 1.0, 1.0, 0.0]))->logLosses();
        self::assertSame([], array_filter($losses, static fn (float $l) => !is_finite($l)));
        self::assertGreaterThan(20.0, $losses[0], 'a sure miss costs a lot');
        self::assertLessThan(1e-10, $losses[2]);
    }

    /** @return iterable<string, array{Confusion, array<string, ?float>}> worked by hand */
    public static function confusions(): iterable
    {
        yield 'mixed' => [
            new Confusion(0.5, 30, 10, 20, 40),
            [
                'accuracy' => 0.7,
                'precision' => 0.75,
                'recall' => 0.6,
                'specificity' => 0.8,
                'f1' => 2 / 3,
                'balanced_accuracy' => 0.7,
                'predicted_positive_share' => 0.4,
                'negative_predictive_value' => 2 / 3,
                'kappa' => 0.4,
                'mcc' => 1000 / sqrt(40 * 50 * 50 * 60),
            ],
        ];
        yield 'nobody called' => [
            new Confusion(1.0, 0, 0, 5, 95),
            ['accuracy' => 0.95, 'precision' => null, 'recall' => 0.0, 'specificity' => 1.0, 'f1' => 0.0, 'mcc' => 0.0, 'kappa' => 0.0],
        ];
        yield 'all right' => [
            new Confusion(0.5, 4, 0, 0, 6),
            ['accuracy' => 1.0, 'precision' => 1.0, 'f1' => 1.0, 'mcc' => 1.0, 'kappa' => 1.0],
        ];
        yield 'all wrong' => [new Confusion(0.5, 0, 6, 4, 0), ['accuracy' => 0.0, 'precision' => 0.0, 'f1' => 0.0, 'mcc' => -1.0]];
        yield 'no event at all' => [new Confusion(0.5, 0, 2, 0, 8), ['recall' => null, 'balanced_accuracy' => null, 'specificity' => 0.8]];
        yield 'one class, one call' => [new Confusion(0.5, 5, 0, 0, 0), ['kappa' => null, 'specificity' => null, 'accuracy' => 1.0]];
    }

    /** @param array<string, ?float> $expected */
    #[DataProvider('confusions')]
    public function testFiguresOfAConfusion(Confusion $confusion, array $expected): void
    {
        foreach ($expected as $name => $value) {
            $got = $confusion->toArray()[$name];
            null === $value ? self::assertNull($got, $name) : self::assertEqualsWithDelta($value, $got, 1e-12, $name);
        }
        foreach ($confusion->intervals() as $name => $interval) {
            if (null !== $interval->value) {
                self::assertEqualsWithDelta((float) $confusion->toArray()[$name], $interval->value, 1e-12, $name);
                self::assertTrue($interval->low <= $interval->value && $interval->value <= $interval->high, $name);
            }
        }
    }

    public function testCalibrationHoldsEveryRecordInOneOfAtMostTenBins(): void
    {
        foreach ([[1, 500, 1000], [2, 500, 4], [3, 7, 50]] as [$seed, $n, $steps]) {
            [$event, $score] = self::data($seed, $n, $steps);
            $calibration = Calibration::of($event, $score);
            self::assertSame($n, array_sum(array_column($calibration->bins, 'n')));
            self::assertSame((int) array_sum($event), array_sum(array_column($calibration->bins, 'positives')));
            self::assertLessThanOrEqual(10, \count($calibration->bins));
            $figures = $calibration->toArray();
            self::assertLessThanOrEqual($figures['max_calibration_error'], $figures['expected_calibration_error']);
            foreach ($calibration->bins as $bin) {
                self::assertTrue($bin['low'] <= $bin['mean_score'] && $bin['mean_score'] <= $bin['high'] + 1e-12);
            }
        }
        self::assertCount(1, Calibration::of([1.0, 0.0, 0.0], [0.3, 0.3, 0.3])->bins, 'the same chance for everybody is one bin');
    }

    public function testMcNemarCountsPairsAndKnowsWhenThereIsNothingToTell(): void
    {
        $event = [1.0, 1.0, 0.0, 0.0, 1.0, 0.0];
        $out = McNemar::test($event, [0.9, 0.9, 0.1, 0.1, 0.1, 0.9], [0.9, 0.1, 0.1, 0.9, 0.1, 0.1], 0.5);
        self::assertSame([2, 2, 1, 1], [$out['both_right'], $out['only_score_right'], $out['only_score2_right'], $out['both_wrong']]);
        self::assertEqualsWithDelta(1.0, $out['exact_p'], 1e-12, 'two against one is nothing');
        $same = McNemar::test($event, $event, $event, 0.5);
        self::assertSame([6, 1.0, null, null], [$same['both_right'], $same['exact_p'], $same['chi2_continuity'], $same['chi2_p']]);
        // Nine against none: 2 × 0.5^9.
        $nine = McNemar::test(array_fill(0, 9, 1.0), array_fill(0, 9, 1.0), array_fill(0, 9, 0.0), 0.5);
        self::assertEqualsWithDelta(2 * 0.5 ** 9, $nine['exact_p'], 1e-15);
    }

    /** @return iterable<string, array{Interval, ?float, ?float, ?float}> */
    public static function intervals(): iterable
    {
        yield 'none of ten' => [Interval::wilson(0, 10), 0.0, 0.0, 0.27753];
        yield 'ten of ten' => [Interval::wilson(10, 10), 1.0, 0.72247, 1.0];
        yield 'half of a hundred' => [Interval::wilson(50, 100), 0.5, 0.40383, 0.59617];
        yield 'nothing to count' => [Interval::wilson(0, 0), null, null, null];
        yield 'a mean of one' => [Interval::mean([3.0]), 3.0, null, null];
        yield 'a mean of none' => [Interval::mean([]), null, null, null];
        yield 'a mean' => [Interval::mean([1.0, 2.0, 3.0, 4.0]), 2.5, 1.234852, 3.765148];
        yield 'F1 of nothing' => [Interval::f1(0, 0, 0), null, null, null];
        yield 'F1' => [Interval::f1(30, 10, 20), 2 / 3, 0.547937, 0.767448];
    }

    #[DataProvider('intervals')]
    public function testIntervalsOfKnownCases(Interval $interval, ?float $value, ?float $low, ?float $high): void
    {
        foreach (['value' => $value, 'low' => $low, 'high' => $high] as $name => $expected) {
            $got = $interval->toArray()[$name];
            null === $expected ? self::assertNull($got, $name) : self::assertEqualsWithDelta($expected, $got, 6e-6, $name);
        }
    }
}
