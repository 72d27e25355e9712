<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Calibrate;

use Dokimos\Core\Calibrate\CannotCalibrate;
use Dokimos\Core\Calibrate\Isotonic;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Steps that only rise, worked out by hand and against their definition. */
final class IsotonicTest extends TestCase
{
    private const CHANCES = [0.1, 0.2, 0.2, 0.3, 0.4, 0.4, 0.6];
    private const EVENTS = [0.0, 1.0, 0.0, 0.0, 1.0, 0.0, 1.0];

    public function testRowsThatFallArePooledAndRowsOfOneChanceAreOne(): void
    {
        $steps = Isotonic::fit(self::EVENTS, self::CHANCES);
        self::assertSame([
            ['from' => 0.1, 'to' => 0.1, 'rows' => 1, 'weight' => 1.0, 'value' => 0.0],
            ['from' => 0.2, 'to' => 0.3, 'rows' => 3, 'weight' => 3.0, 'value' => 1 / 3],
            ['from' => 0.4, 'to' => 0.4, 'rows' => 2, 'weight' => 2.0, 'value' => 0.5],
            ['from' => 0.6, 'to' => 0.6, 'rows' => 1, 'weight' => 1.0, 'value' => 1.0],
        ], $steps->blocks);
        self::assertSame($steps->blocks, Isotonic::read((array) json_decode((string) json_encode($steps->toArray()), true))->blocks);
        // A row that counts twice is two rows; one that counts nothing is none.
        $weights = [1.0, 1.0, 1.0, 2.0, 3.0, 1.0, 1.0, 0.0];
        $weighed = Isotonic::fit([...self::EVENTS, 1.0], [...self::CHANCES, 0.05], $weights);
        self::assertSame([0.0, 0.25, 0.75, 1.0], array_column($weighed->blocks, 'value'));
        self::assertSame([1.0, 4.0, 4.0, 1.0], array_column($weighed->blocks, 'weight'));
        $twice = Isotonic::fit([0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 1.0, 1.0, 0.0, 1.0], [0.1, 0.2, 0.2, 0.3, 0.3, 0.4, 0.4, 0.4, 0.4, 0.6]);
        self::assertSame(array_column($weighed->blocks, 'value'), array_column($twice->blocks, 'value'));
    }

    /** @return iterable<string, array{float, float, float}> chance, its step, and on the line between steps */
    public static function asked(): iterable
    {
        yield 'below all' => [0.01, 0.0, 0.0];
        yield 'at the first' => [0.1, 0.0, 0.0];
        yield 'half way to the second' => [0.15, 0.0, 1 / 6];
        yield 'where a step begins' => [0.2, 1 / 3, 1 / 3];
        yield 'within a step' => [0.27, 1 / 3, 1 / 3];
        yield 'where it ends' => [0.3, 1 / 3, 1 / 3];
        yield 'a quarter of the way on' => [0.325, 1 / 3, 1 / 3 + 1 / 24];
        yield 'at the next' => [0.4, 0.5, 0.5];
        yield 'half way to the last' => [0.5, 0.5, 0.75];
        yield 'at the last' => [0.6, 1.0, 1.0];
        yield 'over all' => [0.99, 1.0, 1.0];
    }

    #[DataProvider('asked')]
    public function testAChanceIsLookedUp(float $chance, float $step, float $line): void
    {
        $steps = Isotonic::fit(self::EVENTS, self::CHANCES);
        self::assertSame($step, $steps->step($chance));
        self::assertEqualsWithDelta($line, $steps->of($chance), 1e-12);
        self::assertNan($steps->of(\NAN));
    }

    public function testEndsAreKeptOffByHalfARecord(): void
    {
        $chances = [...array_fill(0, 10, 0.1), ...array_fill(0, 4, 0.5), 0.7];
        $steps = Isotonic::fit([...array_fill(0, 10, 0.0), ...array_fill(0, 5, 1.0)], $chances);
        self::assertSame([0.0, 1.0], array_column($steps->blocks, 'value'));
        self::assertSame([0.05, 0.9], array_column($steps->softened()->blocks, 'value'), 'of ten, and of five');
        $lone = Isotonic::fit([0.0, 1.0], [0.2, 0.8])->softened();
        self::assertSame([0.5, 0.5], array_column($lone->blocks, 'value'), 'one record says nothing');
    }

    /** Barlow et al. 1972, 1.2: of the least squares without a fall, the largest (by the first row) of the least mean (by the last). */
    public function testItIsTheBestThatDoesNotFall(): void
    {
        $random = new Randomizer(new Mt19937(9));
        for ($run = 0; $run < 20; ++$run) {
            $n = $random->getInt(2, 25);
            $chance = $event = $weights = [];
            for ($i = 0; $i < $n; ++$i) {
                $chance[] = $i / 30;
                $event[] = (float) $random->getInt(0, 1);
                $weights[] = (float) $random->getInt(1, 3);
            }
            $steps = Isotonic::fit($event, $chance, $weights);
            foreach ($chance as $at => $c) {
                $best = -\INF;
                for ($from = 0; $from <= $at; ++$from) {
                    $least = \INF;
                    for ($to = $at; $to < $n; ++$to) {
                        $sum = $all = 0.0;
                        for ($i = $from; $i <= $to; ++$i) {
                            $sum += $weights[$i] * $event[$i];
                            $all += $weights[$i];
                        }
                        $least = min($least, $sum / $all);
                    }
                    $best = max($best, $least);
                }
                self::assertEqualsWithDelta($best, $steps->step($c), 1e-12);
            }
        }
    }

    public function testWithoutARowThatCountsThereIsNothing(): void
    {
        $this->expectException(CannotCalibrate::class);
        Isotonic::fit([1.0, 0.0], [0.3, 0.4], [0.0, 0.0]);
    }

    public function testNothingKeptIsSaid(): void
    {
        $this->expectException(CannotCalibrate::class);
        Isotonic::read(['blocks' => []]);
    }
}
