<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Blend;

use Dokimos\Core\Blend\Mixing;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Task\Answers;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Several answers become one, and are judged where they did not choose how. */
final class MixingTest extends TestCase
{
    /** @return array{list<Answers>, list<float>} a good answer, a weaker one and a coin, for 600 rows */
    private static function drawn(): array
    {
        $random = new Randomizer(new Mt19937(5));
        $answers = [[], [], []];
        $y = [];
        for ($i = 0; $i < 600; ++$i) {
            $p = $random->getInt(5, 95) / 100;
            $y[] = (float) ($random->getInt(1, 1000) / 1000 <= $p);
            $answers[0][] = max(0.02, min(0.98, $p + $random->getInt(-10, 10) / 100));
            $answers[1][] = max(0.02, min(0.98, $p + $random->getInt(-30, 30) / 100));
            $answers[2][] = $random->getInt(20, 80) / 100;
        }

        return [array_map(static fn (array $a): Answers => new Answers($a), $answers), $y];
    }

    public function testTheMeanIsTheMeanAndOneWithoutAnAnswerIsRaised(): void
    {
        $mixing = Mixing::fit(Mixing::MEAN, [new Answers([0.2]), new Answers([0.4]), new Answers([0.9])], [0], [1.0], null, ['no', 'yes']);
        self::assertEqualsWithDelta(0.5, $mixing->of([new Answers([0.2]), new Answers([0.4]), new Answers([0.9])])->first(0), 1e-12);
        self::assertEqualsWithDelta(0.3, $mixing->of([new Answers([0.2]), new Answers([0.4]), new Answers([\NAN])])->first(0), 1e-12);
        self::assertFalse($mixing->of([new Answers([\NAN]), new Answers([\NAN]), new Answers([\NAN])])->isKnown(0));
        $several = $mixing->of([new Answers([0.2, 0.8], 2), new Answers([0.6, 0.4], 2), new Answers([1.0, 0.0], 2)]);
        self::assertEqualsWithDelta([0.6, 0.4], $several->of(0), 1e-12);
    }

    /** Of several classes a row's chances stay together, whichever part it is in and whoever is silent. */
    public function testSeveralClassesAreWeighedTogether(): void
    {
        $random = new Randomizer(new Mt19937(8));
        $sure = $vague = $y = [];
        for ($i = 0; $i < 300; ++$i) {
            $class = $random->getInt(0, 2);
            $y[] = (float) $class;
            foreach ([0, 1, 2] as $k) {
                $sure[] = $k === $class ? 0.8 : 0.1;
                $vague[] = $k === $random->getInt(0, 2) ? 0.4 : 0.3;
            }
        }
        $silent = array_merge(\array_slice($vague, 0, 897), [\NAN, \NAN, \NAN]);
        $answers = [new Answers($sure, 3), new Answers($silent, 3)];
        $mixing = Mixing::fit(Mixing::WEIGHTS, $answers, range(0, 299), $y, null, ['a', 'b', 'c']);
        self::assertGreaterThan(0.95, $mixing->weights[0], 'what gives each class its own is all that counts');
        self::assertEqualsWithDelta(1.0, array_sum($mixing->weights), 1e-12);
        // Weights do not hang on the order of the classes' places: the second and third are right as often as the first.
        $mean = Mixing::across(Mixing::MEAN, $answers, [range(150, 299), range(0, 149)], $y, null, ['a', 'b', 'c']);
        self::assertSame([3, 300], [$mean->width, $mean->rows()]);
        foreach ([0, 7, 149, 150, 298] as $row) {
            foreach ([0, 1, 2] as $k) {
                self::assertEqualsWithDelta(($sure[3 * $row + $k] + $vague[3 * $row + $k]) / 2, $mean->ofClass($row, $k), 1e-12);
            }
        }
        self::assertSame(\array_slice($sure, 897), $mean->of(299), 'the one that answers');
    }

    /** Nothing hangs on which of two classes is called the event. */
    public function testTheOtherClassIsWeighedAlike(): void
    {
        [$answers, $y] = self::drawn();
        $turn = static fn (float $p): float => 1.0 - $p;
        $turned = array_map(static fn (Answers $a): Answers => new Answers(array_map($turn, $a->values)), $answers);
        $other = array_map($turn, $y);
        foreach ([Mixing::WEIGHTS, Mixing::ODDS] as $how) {
            $one = Mixing::fit($how, $answers, range(0, 599), $y, null, ['no', 'yes']);
            $two = Mixing::fit($how, $turned, range(0, 599), $other, null, ['yes', 'no']);
            self::assertEqualsWithDelta($one->weights, $two->weights, 1e-6);
            foreach ($one->of($answers)->values as $row => $p) {
                self::assertEqualsWithDelta(1.0 - $p, $two->of($turned)->values[$row], 1e-6);
            }
        }
    }

    public function testNumbersAreWeighedByTheirSquaredError(): void
    {
        $y = array_map(static fn (int $i): float => (float) ($i % 10), range(0, 199));
        $high = array_map(static fn (float $v): float => $v + 3.0, $y);
        $low = array_map(static fn (float $v): float => $v - 1.0, $y);
        $mixing = Mixing::fit(Mixing::WEIGHTS, [new Answers($high), new Answers($low)], range(0, 199), $y, null, null);
        // Three too high and one too low: a quarter of the first takes both away.
        self::assertEqualsWithDelta([0.25, 0.75], $mixing->weights, 1e-9);
        self::assertEqualsWithDelta($y, $mixing->of([new Answers($high), new Answers($low)])->values, 1e-8);
        $weights = array_map(static fn (int $i): float => 0.0 + ($i < 100), range(0, 199));
        $other = array_map(static fn (float $v, int $i): float => $i < 100 ? $v : $v + 50.0, $low, array_keys($low));
        $counted = Mixing::fit(Mixing::WEIGHTS, [new Answers($high), new Answers($other)], range(0, 199), $y, $weights, null);
        self::assertEqualsWithDelta([0.25, 0.75], $counted->weights, 1e-9, 'rows that count nothing say nothing');
    }

    public function testTheBetterAnswerCountsMoreAndTheCoinNothing(): void
    {
        [$answers, $y] = self::drawn();
        $weights = Mixing::fit(Mixing::WEIGHTS, $answers, range(0, 599), $y, null, ['no', 'yes'])->weights;
        self::assertGreaterThan($weights[1], $weights[0]);
        self::assertLessThan(0.1, $weights[2]);
        $odds = Mixing::fit(Mixing::ODDS, $answers, range(0, 599), $y, null, ['no', 'yes']);
        self::assertGreaterThan(abs($odds->weights[2]), $odds->weights[0]);
        $back = Mixing::fromArray((array) json_decode(
            json_encode($odds->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION),
            true,
        ));
        self::assertSame($odds->of($answers)->values, $back->of($answers)->values);
    }

    /** What a part is told never rests on its own outcomes. */
    public function testAPartDoesNotChooseItsOwnWeights(): void
    {
        [$answers, $y] = self::drawn();
        $parts = [range(0, 199), range(200, 399), range(400, 599)];
        $turned = array_map(static fn (float $v, int $i): float => $i < 200 ? 1.0 - $v : $v, $y, array_keys($y));
        foreach ([Mixing::WEIGHTS, Mixing::ODDS] as $how) {
            $one = Mixing::across($how, $answers, $parts, $y, null, ['no', 'yes']);
            $other = Mixing::across($how, $answers, $parts, $turned, null, ['no', 'yes']);
            self::assertSame(\array_slice($one->values, 0, 200), \array_slice($other->values, 0, 200));
            self::assertNotSame(\array_slice($one->values, 200), \array_slice($other->values, 200));
            self::assertSame(600, \count(array_filter($one->values, is_finite(...))));
        }
    }

    public function testThereHasToBeSomethingToWeighBy(): void
    {
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage('There are too few rows that every trial answers');
        Mixing::fit(Mixing::WEIGHTS, [new Answers([0.2, \NAN]), new Answers([\NAN, 0.4])], [0, 1], [1.0, 0.0], null, ['no', 'yes']);
    }

    public function testLogOddsAreForAnEvent(): void
    {
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage('blends chances of an event');
        Mixing::fit(Mixing::ODDS, [new Answers([1.0, 2.0]), new Answers([2.0, 3.0])], [0, 1], [1.0, 2.0], null, null);
    }
}
