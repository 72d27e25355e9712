<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Validate;

use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Random;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Reach;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ReachTest extends TestCase
{
    /** @return iterable<string, array{string, Sample, list<float>, list<int>, int}> */
    public static function reached(): iterable
    {
        yield 'events among the highest chances' => [
            Task::TWO, new Sample([1, 0, 1, 0, 1], new Answers([0.9, 0.8, 0.4, 0.3, 0.1])), [0, 1, 2, 3, 5], [0, 1, 1, 2, 3], 3,
        ];
        yield 'right names among the surest' => [
            Task::MORE, new Sample([0, 1, 2], new Answers([0.5, 0.3, 0.2, 0.8, 0.1, 0.1, 0.0, 0.4, 0.6], 3)), [1, 2, 3], [0, 1, 2], 3,
        ];
        yield 'errors of at most so much' => [
            Task::NUMBER, new Sample([10, 20, 30], new Answers([11.0, 17.0, 30.0])), [0, 0.5, 1, 2.9, 3], [1, 1, 2, 2, 3], 3,
        ];
        yield 'no event' => [Task::TWO, new Sample([0, 0], new Answers([0.1, 0.2])), [1, 2], [0, 0], 0];
    }

    /**
     * @param list<float> $xs
     * @param list<int>   $counts
     */
    #[DataProvider('reached')]
    public function testCountsWhatIsReached(string $task, Sample $sample, array $xs, array $counts, int $of): void
    {
        $reach = Reach::of($task, $sample);
        self::assertSame($counts, $reach->reached($xs));
        self::assertSame($of, $reach->of);
        self::assertSame(array_fill(0, \count($xs), 0.0), array_map(static fn ($i) => (float) $i->value, $reach->less($reach, $xs)));
    }

    /** Recounted record by record, without the sums that make it quick. */
    public function testTheDifferenceIsThatOfPairedShares(): void
    {
        $random = Random::stream(3, 'reach');
        $y = $a = $b = [];
        for ($i = 0; $i < 300; ++$i) {
            $y[] = ($random->getInt(0, 999999) / 1e6) < 0.3 ? 1.0 : 0.0;
            $a[] = round(0.3 * $y[$i] + ($random->getInt(0, 999999) / 1e6), 1);
            $b[] = round(0.5 * $y[$i] + ($random->getInt(0, 999999) / 1e6), 2);
        }
        $first = Reach::of(Task::TWO, new Sample($y, new Answers($a)));
        $second = Reach::of(Task::TWO, new Sample($y, new Answers($b)));
        $xs = [0.0, 30.0, 90.0, 150.0, 300.0];
        foreach ($first->less($second, $xs) as $k => $told) {
            $only = $other = 0;
            foreach ($y as $i => $event) {
                $one = $event > 0.5 && $first->places[$i] <= $xs[$k];
                $two = $event > 0.5 && $second->places[$i] <= $xs[$k];
                $only += $one && !$two ? 1 : 0;
                $other += $two && !$one ? 1 : 0;
            }
            $n = max(1.0, array_sum($y));
            $error = sqrt($only + $other - ($only - $other) ** 2 / $n) / $n;
            self::assertEqualsWithDelta(($only - $other) / $n, $told->value, 1e-12);
            self::assertEqualsWithDelta(1.959964 * 2 * $error, $told->high - $told->low, 1e-6);
        }
        self::assertSame(300.0, array_sum($first->places) * 2 / 301, 'each rank once, ties too');
        self::assertLessThan(0.0, $first->less($second, [90.0])[0]->high, 'a far worse ranking is told from a better one');
    }

    /** A table sorted by its outcome must not make equal chances look like a ranking. */
    public function testEqualChancesGainNothingByTheTablesOrder(): void
    {
        $y = [...array_fill(0, 500, 1.0), ...array_fill(0, 500, 0.0)];
        $reach = Reach::of(Task::TWO, new Sample($y, new Answers(array_fill(0, 1000, 0.5))));
        self::assertEqualsWithDelta(250, $reach->reached([500.0])[0], 40);
    }
}
