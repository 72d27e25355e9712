<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\Confidence;
use Dokimos\Core\Explain\Sure;
use Dokimos\Core\Random;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Randomizer;

/** How far a single answer may be leaned on, and how often a number comes over a limit. */
final class ConfidenceTest extends TestCase
{
    private static function normal(Randomizer $random): float
    {
        return sqrt(-2 * log(max(1e-12, Random::share($random)))) * cos(2 * \M_PI * Random::share($random));
    }

    /** @return array{list<float>, list<float>} predicted and come, the errors growing with what is predicted when asked */
    private static function numbers(int $n, bool $growing): array
    {
        $random = Random::stream(3, $growing ? 'growing' : 'even');
        $said = $came = [];
        for ($i = 0; $i < $n; ++$i) {
            $said[] = 100 * Random::share($random);
            $came[] = $said[$i] + ($growing ? 0.05 * $said[$i] : 3.0) * self::normal($random);
        }

        return [$said, $came];
    }

    public function testANumberComesOverALimitAsOftenAsItsErrorsSay(): void
    {
        [$said, $came] = self::numbers(4000, false);
        $sure = new Sure(Task::NUMBER, $came, new Answers($said), null);
        foreach ([
            [50.0, 50.0, 0.5],
            [50.0, 53.0, 0.1587],
            [50.0, 47.0, 0.8413],
            [50.0, 59.0, 0.00135],
            [50.0, 20.0, 1.0],
        ] as [$at, $limit, $share]) {
            self::assertEqualsWithDelta($share, $sure->above($at, $limit), 0.06, "$at over $limit");
        }
        $last = 0.0;
        foreach (range(30, 70, 5) as $at) {
            $now = $sure->above((float) $at, 50.0);
            self::assertNotNull($now);
            self::assertGreaterThanOrEqual($last - 0.08, $now, 'what is predicted higher comes over it more often');
            $last = $now;
        }
        self::assertNull((new Sure(Task::NUMBER, [], new Answers([]), null))->above(5.0, 3.0), 'nothing was predicted before');
    }

    public function testErrorsThatGrowAreSaidBesideThoseOfTheMiddle(): void
    {
        [$said, $came] = self::numbers(2000, true);
        $sure = new Sure(Task::NUMBER, $came, new Answers($said), null);
        self::assertEqualsWithDelta(1.0, $sure->spreadBeside(50.0), 0.1);
        self::assertGreaterThan(1.5, $sure->spreadBeside(98.0));
        self::assertLessThan(0.5, $sure->spreadBeside(4.0));
        self::assertSame(Confidence::Fair, Confidence::of($sure, Task::NUMBER, ['number' => 98.0], false));
        self::assertSame(Confidence::High, Confidence::of($sure, Task::NUMBER, ['number' => 20.0], false));
    }

    /** @return iterable<string, array{string, array{chance?: ?float, number?: ?float, shares?: list<float>}}> */
    public static function answers(): iterable
    {
        yield 'a chance' => [Task::TWO, ['chance' => 0.2]];
        yield 'a number' => [Task::NUMBER, ['number' => 20.0]];
        yield 'classes' => [Task::MORE, ['shares' => [0.98, 0.01, 0.01]]];
    }

    /** @param array{chance?: ?float, number?: ?float, shares?: list<float>} $line */
    #[DataProvider('answers')]
    public function testWhatLiesBeyondTrainingIsLowWhateverIsAnswered(string $task, array $line): void
    {
        $random = Random::stream(8, $task);
        $came = $values = [];
        for ($i = 0; $i < 900; ++$i) {
            $class = $random->getInt(0, 2);
            $came[] = match ($task) {
                Task::TWO => (float) (0 === $class),
                Task::MORE => (float) $class,
                default => 20.0 + $class,
            };
            array_push($values, ...match ($task) {
                Task::TWO => [0.33],
                Task::MORE => array_map(static fn (int $k): float => $k === $class ? 0.9 : 0.05, [0, 1, 2]),
                default => [20.0],
            });
        }
        $sure = new Sure($task, $came, new Answers($values, Task::MORE === $task ? 3 : 1), Task::MORE === $task ? ['a', 'b', 'c'] : null);
        self::assertSame(Confidence::Low, Confidence::of($sure, $task, $line, true));
        self::assertSame(Confidence::High, Confidence::of($sure, $task, $line, false));
    }

    public function testClassesThatCannotBeToldApartAreLow(): void
    {
        $random = Random::stream(9, 'classes');
        $came = $values = [];
        for ($i = 0; $i < 900; ++$i) {
            $came[] = (float) $random->getInt(0, 2);
            array_push($values, 0.34, 0.33, 0.33);
        }
        $sure = new Sure(Task::MORE, $came, new Answers($values, 3), ['a', 'b', 'c']);
        self::assertSame(Confidence::Low, Confidence::of($sure, Task::MORE, ['shares' => [0.34, 0.33, 0.33]], false));
    }

    public function testAWideRangeOfAChanceIsFair(): void
    {
        // Forty records: the share among them is known to some fifteen points on either side.
        $came = array_map(static fn (int $i): float => (float) (0 === $i % 2), range(0, 39));
        $sure = new Sure(Task::TWO, $came, new Answers(array_fill(0, 40, 0.5)), null);
        self::assertSame(Confidence::Fair, Confidence::of($sure, Task::TWO, ['chance' => 0.5], false));
    }
}
