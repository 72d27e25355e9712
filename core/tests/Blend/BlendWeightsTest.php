<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Blend;

use Dokimos\Core\Blend\BlendWeights;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Weights of a blend: those of the reference, and what makes them the best. */
final class BlendWeightsTest extends TestCase
{
    private const MODELS = ['m1', 'm2', 'm3', 'm4'];

    /** @return array<string, array{string}> */
    public static function cases(): array
    {
        return ['two classes' => ['two_classes'], 'three classes' => ['three_classes'], 'a number' => ['number']];
    }

    /** @return array{BlendWeights, \Closure(list<float>): float, int} weights, the loss at others, and how many rows there are */
    private static function found(string $case): array
    {
        $table = Files::table(Files::folder('blend')."/$case.csv");
        $answers = $came = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $actual = (string) $table->column('actual')->text($row);
            $came[] = 'number' === $case ? (float) $actual : 0.0;
            foreach (self::MODELS as $k => $model) {
                $p = (float) $table->column('three_classes' === $case ? $model.'_'.$actual : $model)->text($row);
                $answers[$k][] = 'two_classes' === $case && '0' === $actual ? 1.0 - $p : $p;
            }
        }
        /** @var list<list<float>> $answers */
        $loss = static function (array $w) use ($answers, $came, $case): float {
            $sum = 0.0;
            foreach ($came as $row => $y) {
                $q = 0.0;
                foreach (array_values($w) as $j => $v) {
                    $q += $v * $answers[$j][$row];
                }
                $sum += 'number' === $case ? ($q - $y) ** 2 : -log($q);
            }

            return $sum / \count($came);
        };

        return ['number' === $case ? BlendWeights::ofNumbers($answers, $came) : BlendWeights::ofChances($answers), $loss, \count($came)];
    }

    #[DataProvider('cases')]
    public function testWeightsAreThoseOfTheReference(string $case): void
    {
        [$found, $loss] = self::found($case);
        $expected = Files::expected('blend')[$case];
        $key = 'number' === $case ? 'mse' : 'log_loss';
        self::assertEqualsWithDelta($expected['blend'][$key], $found->loss, 1e-9 * $expected['blend'][$key]);
        self::assertEqualsWithDelta(
            $expected['equal_weights'][$key],
            $loss([0.25, 0.25, 0.25, 0.25]),
            1e-10 * $expected['equal_weights'][$key],
        );
        foreach (self::MODELS as $k => $model) {
            self::assertEqualsWithDelta($expected['weights'][$model], $found->weights[$k], 1e-6, $model);
            self::assertSame(0.0 === (float) $expected['weights'][$model], 0.0 === $found->weights[$k], $model.' counts or does not');
            $pull = (float) $expected['gradient_minus_weighted_mean'][$model];
            self::assertEqualsWithDelta($pull, $found->pull[$k], 1e-5 * $pull + 1e-12);
        }
    }

    /** No other weights that were drawn lose less; they are of 0 and more, and add to 1. */
    #[DataProvider('cases')]
    public function testNoOtherWeightsLoseLess(string $case): void
    {
        [$found, $loss] = self::found($case);
        self::assertEqualsWithDelta(1.0, array_sum($found->weights), 1e-12);
        self::assertGreaterThanOrEqual(0.0, min([1.0, ...$found->weights]));
        $random = new Randomizer(new Mt19937(4));
        for ($draw = 0; $draw < 300; ++$draw) {
            $w = array_map(static fn (): float => $random->getInt(0, 1000) ** 2 / 1e6, self::MODELS);
            $all = max(1e-9, array_sum($w));
            self::assertGreaterThanOrEqual($found->loss - 1e-12, $loss(array_map(static fn (float $v): float => $v / $all, $w)));
        }
    }

    public function testOneThatIsAlwaysBetterCountsAlone(): void
    {
        $good = [0.9, 0.8, 0.95, 0.7];
        $found = BlendWeights::ofChances([
            array_map(static fn (float $p): float => $p / 2, $good),
            $good,
            array_map(static fn (float $p): float => $p - 0.1, $good),
        ]);
        self::assertSame([0.0, 1.0, 0.0], $found->weights);
        self::assertGreaterThan(0.0, $found->pull[0]);
    }

    public function testTwiceTheSameAndImpossibleChancesAreNoTrouble(): void
    {
        $found = BlendWeights::ofChances([[0.5, 0.5, 0.2], [0.5, 0.5, 0.2], [0.0, 0.9, 0.4]]);
        self::assertEqualsWithDelta(1.0, array_sum($found->weights), 1e-12);
        self::assertTrue(is_finite($found->loss));
        self::assertSame([1.0], BlendWeights::ofNumbers([[3.0, 4.0]], [3.0, 5.0])->weights);
    }

    public function testWeightsOfRowsAreRepetitions(): void
    {
        $a = [[1.0, 2.0, 4.0, 3.0], [2.0, 1.0, 3.0, 5.0]];
        $came = [1.5, 1.7, 3.2, 4.1];
        $weighted = BlendWeights::ofNumbers($a, $came, [1.0, 2.0, 1.0, 3.0]);
        $places = [0, 1, 1, 2, 3, 3, 3];
        $again = BlendWeights::ofNumbers(
            array_map(static fn (array $own): array => array_map(static fn (int $i): float => $own[$i], $places), $a),
            array_map(static fn (int $i): float => $came[$i], $places),
        );
        self::assertEqualsWithDelta($again->weights[0], $weighted->weights[0], 1e-9);
        self::assertEqualsWithDelta($again->loss, $weighted->loss, 1e-12);
    }
}
