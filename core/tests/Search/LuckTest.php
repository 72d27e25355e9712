<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Search;

use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Search\Effects;
use Dokimos\Core\Search\Winner;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** What being chosen added is taken out again, and what a setting did is told as it was. */
final class LuckTest extends TestCase
{
    /** @return array{list<float>, list<Answers>} outcome; answers of tries that know equally much, each with noise of its own */
    private static function tries(int $seed, int $rows, int $tries, float $knows): array
    {
        $random = new Randomizer(new Mt19937($seed));
        $normal = static function () use ($random): float {
            $sum = 0.0;
            for ($k = 0; $k < 12; ++$k) {
                $sum += $random->getInt(0, 1_000_000) / 1_000_000;
            }

            return $sum - 6.0;
        };
        $outcome = array_map(static fn (): float => $normal(), range(1, $rows));
        $answers = [];
        for ($t = 0; $t < $tries; ++$t) {
            $answers[] = new Answers(array_map(
                static fn (float $y): float => $knows * $y + sqrt($knows * (1 - $knows)) * $normal(),
                $outcome,
            ));
        }

        return [$outcome, $answers];
    }

    private static function figure(string $key): Figure
    {
        foreach (Figures::of(Task::NUMBER) as $figure) {
            if ($figure->key === $key) {
                return $figure;
            }
        }
        self::fail("There is no figure $key.");
    }

    /**
     * @param list<float>   $outcome
     * @param list<Answers> $answers
     *
     * @return array{list<Answers>, float} best first, and the figure of the best
     */
    private static function ranked(Figure $figure, array $outcome, array $answers): array
    {
        usort(
            $answers,
            static fn (Answers $a, Answers $b): int => $figure->order($figure->value($outcome, $a), $figure->value($outcome, $b)),
        );

        return [$answers, (float) $figure->value($outcome, $answers[0])];
    }

    /** @return iterable<string, array{string, int, float}> figure, tries, what the truth is */
    public static function searches(): iterable
    {
        // The answers have variance 0.5 left over: RMSE is √0.5, and half the variance is explained.
        yield 'RMSE, forty tries' => ['rmse', 40, sqrt(0.5)];
        yield 'share explained, forty tries' => ['r2', 40, 0.5];
        yield 'RMSE, one try' => ['rmse', 1, sqrt(0.5)];
    }

    #[DataProvider('searches')]
    public function testOnAverageTheCorrectedFigureIsTheTruth(string $key, int $tries, float $truth): void
    {
        $figure = self::figure($key);
        $searching = $corrected = $errors = $held = 0.0;
        $runs = 40;
        $values = [];
        for ($run = 0; $run < $runs; ++$run) {
            [$outcome, $answers] = self::tries(50 + $run, 200, $tries, 0.5);
            [$answers, $best] = self::ranked($figure, $outcome, $answers);
            $winner = Winner::of($figure, $outcome, $answers, 9);
            self::assertNotNull($winner->luck);
            self::assertGreaterThanOrEqual(0.0, $winner->luck);
            self::assertSame(200, array_sum($winner->chosen), 'each draw has one best');
            $interval = $winner->corrected($figure, $best);
            $searching += $best / $runs;
            $corrected += (float) $interval->value / $runs;
            $values[] = (float) $interval->value;
            $errors += (float) $winner->error / $runs;
            $held += $interval->low <= $truth && $interval->high >= $truth ? 1 : 0;
        }
        $sign = $figure->more ? 1.0 : -1.0;
        if ($tries > 1) {
            self::assertGreaterThan(0.02, $sign * ($searching - $truth), 'the best of many looks better than it is');
        }
        self::assertLessThan(0.6 * abs($searching - $truth) + 0.012, abs($corrected - $truth), 'most of that is taken out');
        self::assertGreaterThanOrEqual(33, $held, 'intervals hold the truth');
        // The error that is told is about the error there is.
        $mean = array_sum($values) / $runs;
        $spread = sqrt(array_sum(array_map(static fn (float $v): float => ($v - $mean) ** 2, $values)) / ($runs - 1));
        self::assertGreaterThan(0.5 * $spread, $errors);
        self::assertLessThan(2.5 * $spread, $errors);
    }

    public function testOfTooLittleNothingIsTold(): void
    {
        $figure = self::figure('rmse');
        [$outcome, $answers] = self::tries(1, 19, 3, 0.5);
        $few = Winner::of($figure, $outcome, $answers, 9);
        self::assertSame([null, null], [$few->luck, $few->error]);
        $plain = $few->corrected($figure, 0.7);
        self::assertSame([0.7, null, null], [$plain->value, $plain->low, $plain->high]);
        self::assertNull(Winner::of($figure, $outcome, [], 9)->luck);
        // Less of RMSE is better, so luck is added back; more of the share explained is, so it is taken off.
        [$outcome, $answers] = self::tries(2, 150, 30, 0.5);
        foreach (['rmse' => 1, 'r2' => -1] as $key => $sign) {
            [$sorted, $best] = self::ranked(self::figure($key), $outcome, $answers);
            $winner = Winner::of(self::figure($key), $outcome, $sorted, 9);
            self::assertEqualsWithDelta($sign * (float) $winner->luck, $winner->corrected(self::figure($key), $best)->value - $best, 1e-12);
        }
    }

    public function testASettingIsToldByItsQuartersAndWhatItExplains(): void
    {
        $settings = $figures = [];
        foreach ([[1, [0.1, 0.2, 0.3, 0.4, 0.5]], [2, [0.6]], [4, [0.9, 0.7]]] as [$depth, $own]) {
            foreach ($own as $figure) {
                $settings[] = ['depth' => $depth, 'how' => $figure > 0.4 ? 'much' : 'little'];
                $figures[] = $figure;
            }
        }
        $told = Effects::of('depth', $settings, $figures);
        $part = static fn (int $k): array => array_map(
            static fn (string $of): float => $told['parts'][$k][$of],
            ['lowest', 'quarter', 'median', 'threeQuarters', 'highest'],
        );
        self::assertEqualsWithDelta([0.1, 0.2, 0.3, 0.4, 0.5], $part(0), 1e-12);
        self::assertEqualsWithDelta([0.6, 0.6, 0.6, 0.6, 0.6], $part(1), 1e-12);
        self::assertEqualsWithDelta([0.7, 0.75, 0.8, 0.85, 0.9], $part(2), 1e-12);
        self::assertSame([5, 1, 2], array_column($told['parts'], 'tries'));
        $mean = array_sum($figures) / 8;
        $all = array_sum(array_map(static fn (float $f): float => ($f - $mean) ** 2, $figures));
        $between = 5 * (0.3 - $mean) ** 2 + (0.6 - $mean) ** 2 + 2 * (0.8 - $mean) ** 2;
        self::assertEqualsWithDelta($between / $all, $told['share'], 1e-12);
        self::assertSame(['little', 'much'], array_column(Effects::of('how', $settings, $figures)['parts'], 'label'));
        self::assertSame(
            0.0,
            Effects::of('depth', $settings, array_fill(0, 8, 0.5))['share'],
            'where nothing differs nothing is explained',
        );
        // Of many values ranges, each try in exactly one.
        $many = Effects::of(
            'x',
            array_map(static fn (int $i): array => ['x' => $i / 7], range(1, 50)),
            array_map(floatval(...), range(1, 50)),
        );
        self::assertCount(6, $many['parts']);
        self::assertSame(50, array_sum(array_column($many['parts'], 'tries')));
        foreach ($many['parts'] as $k => $one) {
            self::assertTrue(0 === $k || $one['low'] > $many['parts'][$k - 1]['high']);
        }
    }
}
