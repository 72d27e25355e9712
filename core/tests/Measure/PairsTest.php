<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Measure;

use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\DeLong;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** The area under a curve is the share of pairs in the right order, and its variance that of DeLong: both by looking at every pair. */
final class PairsTest extends TestCase
{
    /** @return iterable<string, array{int, int, int, bool}> seed, records, different scores, whether records weigh */
    public static function sets(): iterable
    {
        yield 'few scores' => [1, 80, 4, false];
        yield 'many scores' => [2, 120, 5000, false];
        yield 'few records' => [3, 9, 5, false];
        yield 'weighted' => [4, 90, 12, true];
        yield 'weighted, hardly a tie' => [5, 70, 9000, true];
    }

    /** @return array{list<float>, list<float>, list<float>, list<float>} events, scores, other scores, weights */
    private static function drawn(int $seed, int $n, int $steps): array
    {
        $random = new Randomizer(new Mt19937($seed));
        $event = $score = $other = $weight = [];
        for ($i = 0; $i < $n; ++$i) {
            $event[] = $e = (float) ($i < 2 ? $i : $random->getInt(0, 2) > 1);
            $score[] = min(1.0, max(0.0, round(($random->getInt(0, 1000) / 1000 + 0.4 * $e) / 1.4 * $steps) / $steps));
            $other[] = round(($random->getInt(0, 1000) / 1000 + 0.15 * $e) / 1.15 * $steps) / $steps;
            $weight[] = (float) $random->getInt(1, 5);
        }

        return [$event, $score, $other, $weight];
    }

    /**
     * The mean of the kernel, and the placements of the events and of the others.
     *
     * @param list<float> $event
     * @param list<float> $score
     * @param list<float> $weight
     *
     * @return array{float, array<int, float>, array<int, float>}
     */
    private static function placed(array $event, array $score, array $weight): array
    {
        $ones = array_keys($event, 1.0, true);
        $noughts = array_keys($event, 0.0, true);
        $kernel = static fn (int $i, int $j): float => $score[$i] > $score[$j] ? 1.0 : ($score[$i] === $score[$j] ? 0.5 : 0.0);
        $of = static fn (array $rows): float => array_sum(array_map(static fn (int $r): float => $weight[$r], $rows));
        $up = $down = [];
        foreach ($ones as $i) {
            $up[$i] = array_sum(array_map(static fn (int $j): float => $weight[$j] * $kernel($i, $j), $noughts)) / $of($noughts);
        }
        foreach ($noughts as $j) {
            $down[$j] = array_sum(array_map(static fn (int $i): float => $weight[$i] * $kernel($i, $j), $ones)) / $of($ones);
        }
        $auc = array_sum(array_map(static fn (int $i): float => $weight[$i] * $up[$i], $ones)) / $of($ones);

        return [$auc, $up, $down];
    }

    #[DataProvider('sets')]
    public function testTheAreaIsTheShareOfPairsInOrder(int $seed, int $n, int $steps, bool $weighted): void
    {
        [$event, $score, , $weight] = self::drawn($seed, $n, $steps);
        $one = array_fill(0, $n, 1.0);
        [$auc] = self::placed($event, $score, $weighted ? $weight : $one);
        self::assertEqualsWithDelta($auc, (float) (new BinaryScores($event, $score, $weighted ? $weight : null))->auc(), 1e-12);
        self::assertEqualsWithDelta($auc, DeLong::of($event, $score, $weighted ? $weight : null)->auc, 1e-12);
    }

    #[DataProvider('sets')]
    public function testItsVarianceAndThatOfADifferenceAreThoseOfThePlacements(int $seed, int $n, int $steps, bool $weighted): void
    {
        [$event, $score, $other] = self::drawn($seed, $n, $steps);
        if ($weighted) {
            self::assertSame(DeLong::of($event, $score)->auc, DeLong::of($event, $score, array_fill(0, $n, 1.0))->auc);

            return;
        }
        $one = array_fill(0, $n, 1.0);
        [$a, $upA, $downA] = self::placed($event, $score, $one);
        [$b, $upB, $downB] = self::placed($event, $other, $one);
        $covariance = static function (array $x, array $y): float {
            $k = \count($x);
            $mx = array_sum($x) / $k;
            $my = array_sum($y) / $k;

            return array_sum(array_map(static fn (float $p, float $q): float => ($p - $mx) * ($q - $my), $x, $y)) / ($k - 1);
        };
        $of = static fn (array $up, array $up2, array $down, array $down2): float => $covariance($up, $up2) / \count($up)
            + $covariance($down, $down2) / \count($down);
        [$first, $second] = [DeLong::of($event, $score), DeLong::of($event, $other)];
        self::assertEqualsWithDelta($of($upA, $upA, $downA, $downA), $first->variance(), 1e-12);
        self::assertEqualsWithDelta($of($upA, $upB, $downA, $downB), DeLong::covariance($first, $second), 1e-12);
        $test = DeLong::test($first, $second);
        $se = sqrt($of($upA, $upA, $downA, $downA) + $of($upB, $upB, $downB, $downB) - 2 * $of($upA, $upB, $downA, $downB));
        self::assertEqualsWithDelta($a - $b, $test['auc_difference'], 1e-12);
        self::assertEqualsWithDelta($se, $test['se'], 1e-10);
        self::assertEqualsWithDelta(($a - $b) / $se, $test['z'], 1e-8);
    }

    /** Of cut-offs with the same F1 the highest is told: it calls the fewest. */
    public function testOfEqualCutOffsTheHighestIsTold(): void
    {
        // At 0.9: one of one, F1 = 2/3. At 0.5: two of four, F1 = 2/3 once more.
        $scores = new BinaryScores([1.0, 0.0, 0.0, 1.0, 0.0], [0.9, 0.7, 0.6, 0.5, 0.1]);
        self::assertEqualsWithDelta(2 / 3, $scores->bestF1()['f1'], 1e-12);
        self::assertSame(0.9, $scores->bestF1()['cutoff']);
    }

    public function testAnIntervalKeepsInsideNoughtAndOneAtItsEnds(): void
    {
        $event = [...array_fill(0, 12, 0.0), ...array_fill(0, 10, 1.0)];
        $rising = array_map(static fn (int $i): float => (float) ($i / 22), range(0, 21));
        $perfect = DeLong::of($event, $rising)->interval();
        self::assertSame([1.0, 1.0], [$perfect->value, $perfect->high]);
        self::assertTrue($perfect->low > 0.7 && $perfect->low < 0.99, 'so few records do not prove it perfect');
        $wrong = DeLong::of($event, array_reverse($rising))->interval();
        self::assertSame([0.0, 0.0], [$wrong->value, $wrong->low]);
        self::assertEqualsWithDelta(1.0 - $perfect->low, $wrong->high, 1e-9, 'the mirror of the perfect one');
        // Between both: the limits lie 1.96 of their own standard errors away, so the shorter side is the one toward 1.
        $good = DeLong::of(
            $event,
            array_map(static fn (float $s, int $i): float => 5 === $i ? 0.99 : $s, $rising, range(0, 21)),
        )->interval();
        self::assertTrue($good->low < $good->value && $good->value < $good->high && $good->high < 1.0);
        self::assertGreaterThan($good->high - $good->value, $good->value - $good->low);
        // Of two events nothing can be said.
        $hardly = DeLong::of([0.0, 0.0, 0.0, 1.0, 1.0], [0.1, 0.2, 0.3, 0.8, 0.9])->interval();
        self::assertSame([1.0, null, null], [$hardly->value, $hardly->low, $hardly->high]);
    }
}
