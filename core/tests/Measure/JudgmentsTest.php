<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Measure;

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Figure\LogLoss;
use Dokimos\Core\Figure\MacroAuc;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Measure\ClassFigures;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\NumberFigures;
use Dokimos\Core\Measure\NumberJudgment;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\TrialFigures;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Intervals of the figures of numbers and of several classes. */
final class JudgmentsTest extends TestCase
{
    /** @return array{non-empty-list<float>, non-empty-list<float>} actual, predicted; errors lean to one side */
    private static function drawn(Randomizer $random, int $n): array
    {
        $actual = $predicted = [];
        for ($i = 0; $i < $n; ++$i) {
            $predicted[] = $p = (float) $random->getInt(0, 10_000) / 100;
            // A sum of three: leaning, as errors do, but with an end to it.
            $actual[] = $p - 36.0 + ($random->getInt(0, 100) + $random->getInt(0, 60) + $random->getInt(0, 60)) / 3;
        }

        \assert([] !== $actual && [] !== $predicted);

        return [$actual, $predicted];
    }

    /**
     * @param non-empty-list<float> $actual
     * @param list<float>           $predicted
     *
     * @return array<string, Interval>
     */
    private static function figures(array $actual, array $predicted): array
    {
        $sample = new Sample($actual, new Answers($predicted));
        $out = [];
        foreach (Figures::of(Task::NUMBER) as $figure) {
            $out[$figure->key] = $figure->interval($sample) ?? new Interval(null);
        }

        return $out;
    }

    /**
     * @param list<string>      $classes
     * @param list<int>         $actual
     * @param list<list<float>> $shares
     *
     * @return array<string, mixed>
     */
    private static function classes(array $classes, array $actual, array $shares): array
    {
        return TrialFigures::of(
            Task::MORE,
            $classes,
            array_map(floatval(...), $actual),
            new Answers(array_merge(...array_map(null, ...$shares)), \count($classes)),
        );
    }

    public function testFiguresAreThoseOfTheReference(): void
    {
        [$actual, $predicted] = self::drawn(new Randomizer(new Mt19937(1)), 500);
        $plain = NumberFigures::of($actual, $predicted);
        $own = self::figures($actual, $predicted);
        foreach (['rmse', 'mae', 'r2', 'bias'] as $name) {
            self::assertEqualsWithDelta($plain[$name], $own[$name]->value, 1e-12, $name);
        }
        self::assertEqualsWithDelta($plain['median_ae'], $own['within50']->value, 0.2);
    }

    /** The truth is known here: how often does each interval hold it? Widely drawn, so that it cannot fail by chance. */
    public function testIntervalsHoldTheTruth(): void
    {
        $random = new Randomizer(new Mt19937(9));
        [$actual, $predicted] = self::drawn($random, 60_000);
        $truth = array_map(static fn ($i) => $i->value, self::figures($actual, $predicted));
        $held = array_fill_keys(array_keys($truth), 0);
        for ($run = 0; $run < 300; ++$run) {
            foreach (self::figures(...self::drawn($random, 400)) as $name => $interval) {
                $held[$name] += (int) ($interval->low <= $truth[$name] && $truth[$name] <= $interval->high);
            }
        }
        foreach ($held as $name => $times) {
            self::assertEqualsWithDelta(0.95, $times / 300, 0.06, $name);
        }
    }

    public function testTenthsHoldEveryRowOnceInOrder(): void
    {
        [$actual, $predicted] = self::drawn(new Randomizer(new Mt19937(2)), 333);
        $tenths = NumberJudgment::tenths($actual, $predicted);
        self::assertSame(333, array_sum(array_column($tenths, 'rows')));
        $sorted = array_column($tenths, 'predicted');
        sort($sorted);
        self::assertSame($sorted, array_column($tenths, 'predicted'));
        foreach ($tenths as $t) {
            self::assertTrue($t['low'] <= $t['middle'] && $t['middle'] <= $t['high'] && $t['offLow'] <= $t['offQuarter'] && $t['offThreeQuarters'] <= $t['offHigh']);
        }
        self::assertCount(333, NumberJudgment::dots($actual, $predicted));
        self::assertLessThanOrEqual(620, \count(NumberJudgment::dots(...self::drawn(new Randomizer(new Mt19937(3)), 5000))));
        self::assertCount(1, NumberJudgment::tenths([3.0], [2.0]));
        self::assertNull(self::figures([3.0, 3.0], [2.0, 4.0])['r2']->value, 'nothing varies, so nothing is explained');
    }

    public function testSeveralClassesCountEveryRowOnce(): void
    {
        $actual = [0, 0, 1, 2, 2, 1];
        $shares = [[0.7, 0.2, 0.1, 0.0, 0.5, 0.3], [0.2, 0.7, 0.8, 0.1, 0.3, 0.3], [0.1, 0.1, 0.1, 0.9, 0.2, 0.4]];
        $all = self::classes(['a', 'b', 'c'], $actual, $shares);
        self::assertSame([[1, 1, 0], [0, 1, 1], [1, 0, 1]], $all['confusion']);
        /** @var array{accuracy: array{value: float}, classes: list<array<string, mixed>>, baseline: array{accuracy: float, logLoss: float}} $all */
        self::assertSame(0.5, $all['accuracy']['value']);
        self::assertEqualsWithDelta(log(3), $all['baseline']['logLoss'], 1e-12);
        self::assertSame([2, 2, 2], array_column($all['classes'], 'called'));
        self::assertEqualsWithDelta([-log(0.7)], (new LogLoss())->losses(new Sample([0.0], new Answers([0.7, 0.2, 0.1], 3))), 1e-12);
        self::assertFalse(is_infinite((new LogLoss())->losses(new Sample([1.0], new Answers([1.0, 0.0, 0.0], 3)))[0]));
    }

    /** Of two classes both areas are the same area, so that their mean has its interval; the mean is that of the reference's figures. */
    public function testTheMeanAreaOfClassesHasAnInterval(): void
    {
        $random = new Randomizer(new Mt19937(7));
        $actual = $first = [];
        for ($i = 0; $i < 200; ++$i) {
            $first[] = $p = $random->getInt(0, 100) / 100;
            $actual[] = (int) ($random->getInt(0, 100) > 100 * $p);
        }
        $shares = [$first, array_map(static fn (float $p): float => 1 - $p, $first)];
        $judged = (new MacroAuc())->interval(new Sample(
            array_map(floatval(...), $actual),
            new Answers(array_merge(...array_map(null, ...$shares)), 2),
        ));
        self::assertNotNull($judged);
        $macro = $judged->toArray();
        $one = DeLong::of(array_map(floatval(...), $actual), $shares[1])->interval();
        self::assertEqualsWithDelta(array_values($one->toArray()), array_values($macro), 1e-12);
        self::assertEqualsWithDelta(ClassFigures::of(['a', 'b'], $actual, $shares)['macro_auc'], $macro['value'], 1e-12);
        self::assertNull(
            self::classes(['a', 'b', 'c'], $actual, [...$shares, array_fill(0, 200, 0.0)])['macroAuc'],
            'a class that does not occur has none',
        );
    }
}
