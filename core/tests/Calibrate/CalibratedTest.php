<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Calibrate;

use Dokimos\Core\Calibrate\Calibrated;
use Dokimos\Core\Calibrate\CannotCalibrate;
use Dokimos\Core\Calibrate\Isotonic;
use Dokimos\Core\Calibrate\Prior;
use Dokimos\Core\Calibrate\Sigmoid;
use Dokimos\Core\Calibrate\Way;
use Dokimos\Core\Figure\LogLoss;
use Dokimos\Core\Random;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Validate\CrossCalibrated;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What holds for every way to calibrate. */
final class CalibratedTest extends TestCase
{
    /** @return array{list<float>, list<float>} outcomes, and chances that are twice as sure of themselves as they may be */
    private static function sure(int $rows, int $seed = 1): array
    {
        $random = Random::stream($seed, 'sure');
        $share = static fn (): float => ($random->getInt(0, 999_998) + 0.5) / 1_000_000;
        $event = $chance = [];
        for ($i = 0; $i < $rows; ++$i) {
            $true = $share();
            $event[] = $share() < $true ? 1.0 : 0.0;
            $odds = 2.0 * log($true / (1 - $true));
            $chance[] = 1 / (1 + exp(-$odds));
        }

        return [$event, $chance];
    }

    /** @return iterable<string, array{string}> */
    public static function ways(): iterable
    {
        yield 'sigmoid' => [Way::SIGMOID];
        yield 'isotonic' => [Way::ISOTONIC];
    }

    #[DataProvider('ways')]
    public function testRepairsWhatIsTooSureAndNeverTurnsTheOrderAround(string $way): void
    {
        [$event, $chance] = self::sure(3000);
        [$newEvent, $new] = self::sure(3000, 2);
        $calibrated = Calibrated::fit($way, $event, new Answers($chance));
        $said = $calibrated->of(new Answers($new))->values;
        $loss = new LogLoss();
        self::assertLessThan((float) $loss->value($newEvent, new Answers($new)) - 0.03, $loss->value($newEvent, new Answers($said)));
        $order = array_keys($new);
        usort($order, static fn (int $a, int $b): int => $new[$a] <=> $new[$b]);
        $last = 0.0;
        foreach ($order as $i) {
            self::assertGreaterThanOrEqual($last, $said[$i]);
            $last = $said[$i];
        }
        // Kept off 0 and 1, even for chances of 0 and 1.
        foreach ($calibrated->of(new Answers([0.0, 1.0]))->values as $end) {
            self::assertGreaterThan(0.0, $end);
            self::assertLessThan(1.0, $end);
        }
        self::assertNan($calibrated->of(new Answers([\NAN]))->values[0]);
    }

    #[DataProvider('ways')]
    public function testIsReadBackToTheLastBit(string $way): void
    {
        [$event, $chance] = self::sure(200);
        $calibrated = Calibrated::fit($way, $event, new Answers($chance));
        /** @var array<string, mixed> $kept */
        $kept = json_decode(json_encode($calibrated->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true);
        self::assertSame($calibrated->of(new Answers($chance))->values, Calibrated::read($kept)->of(new Answers($chance))->values);
    }

    #[DataProvider('ways')]
    public function testWeightsCountAsRepeatedRows(string $way): void
    {
        [$event, $chance] = self::sure(120);
        $weights = array_map(static fn (int $i): float => (float) (1 + $i % 3), array_keys($event));
        $repeated = [[], []];
        foreach ($event as $i => $y) {
            for ($k = 0; $k < $weights[$i]; ++$k) {
                $repeated[0][] = $y;
                $repeated[1][] = $chance[$i];
            }
        }
        $one = Calibrated::fit($way, $event, new Answers($chance), $weights)->of(new Answers($chance))->values;
        $other = Calibrated::fit($way, $repeated[0], new Answers($repeated[1]))->of(new Answers($chance))->values;
        self::assertEqualsWithDelta($one, $other, 1e-9);
    }

    #[DataProvider('ways')]
    public function testSeveralClassesAddUpToOne(string $way): void
    {
        $random = Random::stream(4, 'classes');
        $outcome = $values = [];
        for ($i = 0; $i < 300; ++$i) {
            $raw = [$random->getInt(1, 100), $random->getInt(1, 100), $random->getInt(1, 100)];
            array_push($values, ...array_map(static fn (int $v): float => $v / array_sum($raw), $raw));
            $outcome[] = (float) $random->getInt(0, 2);
        }
        $answers = Calibrated::fit($way, $outcome, new Answers($values, 3))->of(new Answers($values, 3));
        for ($i = 0; $i < 300; ++$i) {
            self::assertEqualsWithDelta(1.0, array_sum($answers->of($i)), 1e-12);
        }
    }

    public function testNoFoldReadsItsOwnOutcomes(): void
    {
        [$event, $chance] = self::sure(400);
        $parts = [[range(0, 199), range(200, 399)]];
        $before = CrossCalibrated::of(Way::ISOTONIC, $event, [new Answers($chance)], $parts)->answers[0]->values;
        $turned = array_map(static fn (int $i): float => $i < 200 ? 1.0 - $event[$i] : $event[$i], range(0, 399));
        $after = CrossCalibrated::of(Way::ISOTONIC, $turned, [new Answers($chance)], $parts)->answers[0]->values;
        self::assertSame(\array_slice($before, 0, 200), \array_slice($after, 0, 200), 'its own outcomes do not matter to a fold');
        self::assertNotSame(\array_slice($before, 200), \array_slice($after, 200));
    }

    public function testWhicheverDoesBetterTakesTheLeastLossAndASinglePartIsCrossedWithinItself(): void
    {
        [$event, $chance] = self::sure(600);
        $cross = CrossCalibrated::of(Way::BETTER, $event, [new Answers($chance)], [[range(0, 599)]]);
        self::assertSame([Way::NONE, Way::SIGMOID, Way::ISOTONIC], array_keys($cross->losses));
        foreach ($cross->losses as $loss) {
            self::assertGreaterThanOrEqual($cross->losses[$cross->way], $loss);
        }
        self::assertSame(Way::SIGMOID, $cross->way);
        self::assertNotNull($cross->calibrated);
        // What holds already stays as it comes.
        $random = Random::stream(9, 'holds');
        $share = static fn (): float => ($random->getInt(0, 999_998) + 0.5) / 1_000_000;
        $true = array_map(static fn (): float => $share(), range(1, 600));
        $came = array_map(static fn (float $p): float => $share() < $p ? 1.0 : 0.0, $true);
        $holds = CrossCalibrated::of(Way::BETTER, $came, [new Answers($true)], [[range(0, 599)]]);
        foreach ($holds->losses as $loss) {
            self::assertLessThan((float) $loss + 0.01, (float) $holds->losses[Way::NONE]);
        }
        // Rows without an answer stay without one.
        $some = array_map(static fn (int $i): float => 3 === $i ? \NAN : $chance[$i], array_keys($chance));
        self::assertNan(CrossCalibrated::of(Way::SIGMOID, $event, [new Answers($some)], [[range(0, 599)]])->answers[0]->values[3]);
    }

    /** @return iterable<string, array{string, list<float>, list<float>}> */
    public static function hopeless(): iterable
    {
        yield 'one kind of outcome' => [Way::SIGMOID, [1.0, 1.0, 1.0], [0.2, 0.3, 0.4]];
        yield 'all chances alike' => [Way::SIGMOID, [1.0, 0.0, 1.0], [0.3, 0.3, 0.3]];
        yield 'parted without a fault' => [Way::SIGMOID, [0.0, 0.0, 1.0, 1.0], [0.1, 0.2, 0.8, 0.9]];
        yield 'no row' => [Way::ISOTONIC, [], []];
    }

    /**
     * @param list<float> $event
     * @param list<float> $chance
     */
    #[DataProvider('hopeless')]
    public function testWhatCannotBeHeldAgainstAnythingIsRefusedInASentence(string $way, array $event, array $chance): void
    {
        $this->expectException(CannotCalibrate::class);
        Calibrated::fit($way, $event, new Answers($chance));
    }

    public function testStepsRiseStrictlyAndHoldEveryRowOnce(): void
    {
        [$event, $chance] = self::sure(500);
        $chance = array_map(static fn (float $c): float => round($c, 2), $chance);
        $blocks = Isotonic::fit($event, $chance)->blocks;
        self::assertSame(500, array_sum(array_column($blocks, 'rows')));
        for ($i = 1, $n = \count($blocks); $i < $n; ++$i) {
            self::assertGreaterThan($blocks[$i - 1]['value'], $blocks[$i]['value']);
            self::assertGreaterThan($blocks[$i - 1]['to'], $blocks[$i]['from']);
        }
        // The steps are the closest rising ones: no other has less squared error than their mean in each block.
        self::assertEqualsWithDelta(
            array_sum($event),
            array_sum(array_map(static fn (array $b): float => $b['rows'] * $b['value'], $blocks)),
            1e-9,
        );
    }

    public function testPriorCorrectionIsItsOwnInverseAndKeepsTheEnds(): void
    {
        foreach ([0.0, 0.03, 0.5, 0.97, 1.0] as $p) {
            self::assertEqualsWithDelta($p, Prior::corrected(Prior::corrected($p, 0.5, 0.1), 0.1, 0.5), 1e-12);
        }
        self::assertSame([0.0, 1.0], [Prior::corrected(0.0, 0.5, 0.1), Prior::corrected(1.0, 0.5, 0.1)]);
        self::assertEqualsWithDelta(
            Sigmoid::logOdds(Prior::corrected(0.3, 0.5, 0.1)),
            Sigmoid::logOdds(0.3) + Prior::shift(0.5, 0.1),
            1e-9,
        );
    }
}
