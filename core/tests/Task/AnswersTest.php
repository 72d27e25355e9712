<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Task;

use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\CutOff;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What a model says, and from which chance on a record is called. */
final class AnswersTest extends TestCase
{
    public function testAnAnswerIsANumberAChanceOrTheChancesOfAllClasses(): void
    {
        self::assertSame([1, 1, 3], [Answers::widthOf(null), Answers::widthOf(['no', 'yes']), Answers::widthOf(['a', 'b', 'c'])]);
        $event = new Answers([0.2, \NAN, 0.9]);
        self::assertSame([true, false, true], array_map($event->isKnown(...), [0, 1, 2]));
        self::assertSame([3, [0.9], 0], [$event->rows(), $event->of(2), $event->likeliest(2)]);
        self::assertSame([0.2, 0.8, 0.2], [$event->first(0), $event->ofClass(0, 0), $event->ofClass(0, 1)]);
        $several = new Answers([0.2, 0.4, 0.4, \NAN, \NAN, \NAN, 0.5, 0.3, 0.2], 3);
        self::assertSame([3, true, false], [$several->rows(), $several->isKnown(0), $several->isKnown(1)]);
        self::assertSame(
            [1, 0.4, [0.2, 0.4, 0.4]],
            [$several->likeliest(0), $several->first(0), $several->of(0)],
            'of equal chances the first',
        );
        self::assertSame([0, 0.5, 0.3], [$several->likeliest(2), $several->first(2), $several->ofClass(2, 1)]);
        self::assertSame([0.5, 0.3, 0.2], $several->of(2));
        self::assertSame([2, 0.7], [(new Answers([0.1, 0.2, 0.7], 3))->likeliest(0), (new Answers([0.1, 0.2, 0.7], 3))->first(0)]);
        self::assertSame([[0.3, 0.7, 0.3, 0.7], 2], [Answers::same([0.3, 0.7], 2)->values, Answers::same([0.3, 0.7], 2)->width]);
        self::assertSame([0.5, 0.3, 0.2, 0.2, 0.4, 0.4], $several->take([2, 0])->values);
        self::assertSame([[0.5, 0.2], [0.3, 0.4], [0.2, 0.4]], $several->take([2, 0])->lists());
    }

    /** @return iterable<string, array{float, float}> */
    public static function rates(): iterable
    {
        yield 'half' => [0.5, 0.5];
        yield 'as it was' => [0.1637, 0.16];
        yield 'one in a hundred' => [0.012, 0.01];
        yield 'one in a thousand' => [0.00104, 0.001];
        yield 'four in ten thousand' => [0.000417, 0.00042];
    }

    #[DataProvider('rates')]
    public function testRareEventsHaveACutOffOfTheirOwn(float $rate, float $suggested): void
    {
        $cutoff = CutOff::suggested($rate);
        self::assertSame($suggested, $cutoff->value);
        $offered = array_map(static fn (CutOff $c): float => $c->value, CutOff::offered($rate));
        self::assertSame([0.0, 1.0], [$offered[0], $offered[\count($offered) - 1]]);
        self::assertGreaterThanOrEqual(
            10,
            \count(array_filter($offered, static fn (float $c): bool => $c > 0.0 && $c < 5 * $rate)),
            'steps where the chances are',
        );
        self::assertSame($offered, array_values(array_unique($offered)));
    }

    public function testTheCutOffItselfIsCalled(): void
    {
        $cutoff = CutOff::at(0.123456);
        self::assertSame(0.1235, $cutoff->value, 'four significant digits');
        self::assertSame([true, false, false], [$cutoff->calls(0.1235), $cutoff->calls(0.12349), $cutoff->calls(\NAN)]);
        self::assertSame(0.0004123, CutOff::at(0.00041234)->value);
        self::assertSame([0.0, 1.0], [CutOff::at(-3.0)->value, CutOff::at(7.0)->value]);
    }

    /** The highest cut-off that still calls a chance lies at most one step of its four digits below it. */
    public function testACutOffReachesAChance(): void
    {
        $chances = [0.0, 1.0, 0.5, 0.12345, 0.123449999, 0.1, 0.099999, 0.00999996, 1e-5, 0.0004123499, 0.99996, 3e-17];
        for ($i = 1; $i < 200; ++$i) {
            $chances[] = 10 ** (-$i / 30) * 0.999;
        }
        foreach ($chances as $chance) {
            $cutoff = CutOff::reaching($chance);
            self::assertTrue($cutoff->calls($chance), (string) $chance);
            $step = $chance > 0.0 ? 10 ** (floor(log10($chance)) - 3) : 1.0;
            self::assertGreaterThan($chance - 1.001 * $step, $cutoff->value, (string) $chance);
            self::assertSame($cutoff->value, CutOff::at($cutoff->value)->value, 'a cut-off like any other');
        }
    }

    public function testEveryHundredthIsOfferedAndFinerStepsForRareEventsOnly(): void
    {
        $offered = static fn (float $rate): array => array_map(static fn (CutOff $c): float => $c->value, CutOff::offered($rate));
        $plain = array_map(static fn (int $p): float => $p / 100, range(0, 100));
        foreach ([0.0, 0.05, 0.3] as $rate) {
            self::assertSame($plain, $offered($rate));
        }
        $rare = $offered(0.0007);
        self::assertSame([], array_diff($plain, $rare));
        self::assertSame(
            array_map(static fn (int $k): float => (float) \sprintf('%.4g', 0.00007 * $k), range(1, 49)),
            array_values(array_diff($rare, $plain)),
        );
        $sorted = $rare;
        sort($sorted);
        self::assertSame($sorted, $rare);
        self::assertGreaterThan(101, \count($offered(0.0499)));
        self::assertSame(0.5, CutOff::half()->value);
    }
}
