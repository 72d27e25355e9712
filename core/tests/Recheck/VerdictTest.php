<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Recheck;

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Random;
use Dokimos\Core\Recheck\Judged;
use Dokimos\Core\Recheck\Recheck;
use Dokimos\Core\Recheck\Verdict;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Randomizer;

/** How often each verdict comes where it should, and where it should not. */
final class VerdictTest extends TestCase
{
    private const RUNS = 80;

    /**
     * Records of which the model knows what there is to know, but for so much.
     *
     * @param float $off  by which log-odds, or numbers, are not what the model says
     * @param float $part of what the model says that is still so
     */
    private static function records(Randomizer $r, string $task, int $rows, float $off = 0.0, float $part = 1.0): Judged
    {
        $outcome = $answers = [];
        $normal = static fn (): float => sqrt(-2 * log(1 - Random::share($r))) * cos(2 * \M_PI * Random::share($r));
        for ($i = 0; $i < $rows; ++$i) {
            $x = $normal();
            if (Task::NUMBER === $task) {
                $answers[] = 10 + 3 * $x;
                $outcome[] = 10 + $off + 3 * $part * $x + 4 * $normal();
                continue;
            }
            if (Task::TWO === $task) {
                $answers[] = 1 / (1 + exp(1.6 - 0.9 * $x));
                $outcome[] = Random::share($r) < 1 / (1 + exp(1.6 - $off - 0.9 * $part * $x)) ? 1.0 : 0.0;
                continue;
            }
            $shares = static fn (float $times, float $more): array => self::shares([0.0, 0.4 + $more, 2.4 * $times * $x]);
            array_push($answers, ...$shares(1.0, 0.0));
            $u = Random::share($r);
            $came = $shares($part, $off);
            $outcome[] = $u < $came[0] ? 0.0 : ($u < $came[0] + $came[1] ? 1.0 : 2.0);
        }

        return new Judged($task, $outcome, new Answers($answers, Task::MORE === $task ? 3 : 1));
    }

    /**
     * @param non-empty-list<float> $odds
     *
     * @return list<float>
     */
    private static function shares(array $odds): array
    {
        $raised = array_map(exp(...), $odds);

        return array_map(static fn (float $e): float => $e / array_sum($raised), $raised);
    }

    private static function recheck(Judged $then, Judged $now): Recheck
    {
        return Recheck::of($then, $now, Figures::ranking($then->task), Task::TWO === $then->task ? CutOff::at(0.25) : null, beside: []);
    }

    /** @return iterable<string, array{string, int}> */
    public static function equal(): iterable
    {
        foreach ([Task::TWO, Task::NUMBER, Task::MORE] as $task) {
            foreach ([200, 900, 5000] as $rows) {
                yield "$task, $rows" => [$task, $rows];
            }
        }
    }

    #[DataProvider('equal')]
    public function testEqualRecordsGiveFewFalseAlarms(string $task, int $rows): void
    {
        $r = Random::stream(7 * $rows + \strlen($task), 'verdicts');
        $came = array_fill_keys(array_column(Verdict::cases(), 'value'), 0);
        // Of many records a run takes longer.
        $runs = $rows > 1000 ? intdiv(self::RUNS, 2) : self::RUNS;
        for ($i = 0; $i < $runs; ++$i) {
            ++$came[self::recheck(self::records($r, $task, 1200), self::records($r, $task, $rows))->verdict->value];
        }
        self::assertLessThanOrEqual(0.05, $came['wearing off'] / $runs, (string) json_encode($came));
        self::assertLessThanOrEqual(0.01, $came['no longer'] / $runs, (string) json_encode($came));
        $rows > 200 ? self::assertGreaterThan(
            0.9,
            $came['holds'] / $runs,
            (string) json_encode($came),
        ) : self::assertGreaterThan(0, $came['too few to tell'] + $came['holds']);
    }

    /** @return iterable<string, array{string, int, float, float, Verdict}> */
    public static function changed(): iterable
    {
        yield 'chances too low' => [Task::TWO, 900, 0.5, 1.0, Verdict::WearingOff];
        yield 'half of what it knew' => [Task::TWO, 3000, 0.0, 0.5, Verdict::WearingOff];
        yield 'turned round' => [Task::TWO, 3000, 0.0, -0.6, Verdict::NoLonger];
        yield 'too few' => [Task::TWO, 60, 0.0, 1.0, Verdict::TooFew];
        yield 'numbers too low' => [Task::NUMBER, 900, 0.8, 1.0, Verdict::WearingOff];
        yield 'worse than the mean' => [Task::NUMBER, 3000, 0.0, -0.8, Verdict::NoLonger];
        yield 'a class that comes more often' => [Task::MORE, 900, 0.6, 1.0, Verdict::WearingOff];
    }

    #[DataProvider('changed')]
    public function testWhatIsPlantedIsFound(string $task, int $rows, float $off, float $part, Verdict $wanted): void
    {
        $r = Random::stream(5, 'verdicts');
        $found = 0;
        for ($i = 0; $i < 20; ++$i) {
            $told = self::recheck(self::records($r, $task, 1200), self::records($r, $task, $rows, $off, $part));
            $found += $told->verdict === $wanted ? 1 : 0;
            self::assertNotSame([], $told->reasons);
        }
        self::assertGreaterThan(16, $found);
    }

    public function testAColumnThatIsGoneEndsIt(): void
    {
        $r = Random::stream(3, 'verdicts');
        $told = Recheck::of(
            self::records($r, Task::TWO, 900),
            self::records($r, Task::TWO, 900),
            Figures::ranking(Task::TWO),
            lacking: ['days_ahead'],
        );
        self::assertSame(Verdict::NoLonger, $told->verdict);
        self::assertSame(['The newer records lack days_ahead, which the model needs.'], $told->reasons);
    }

    public function testWhatCannotBeToldIsSaid(): void
    {
        $then = new Judged(
            Task::TWO,
            [0.0, 1.0, 0.0, 1.0, 0.0, 1.0, 0.0, 1.0, 0.0, 1.0],
            new Answers([.1, .9, .2, .8, .3, .7, .4, .6, .5, .5]),
        );
        foreach ([[], [0.0], [0.0, 0.0, 0.0], [\NAN, 1.0]] as $outcome) {
            $now = new Judged(Task::TWO, $outcome, new Answers(array_fill(0, \count($outcome), 0.3)));
            $told = Recheck::of($then, $now, Figures::ranking(Task::TWO), CutOff::at(0.5));
            self::assertSame(Verdict::TooFew, $told->verdict);
            self::assertStringContainsString('cannot be told', $told->reasons[0]);
        }
    }
}
