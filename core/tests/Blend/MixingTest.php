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
