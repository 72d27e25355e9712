<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Figure;

use Dokimos\Core\Figure\Auc;
use Dokimos\Core\Figure\Bias;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Figure\Rmse;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\ClassFigures;
use Dokimos\Core\Measure\NumberFigures;
use Dokimos\Core\Random;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Each figure by its name is the one of the judgment, whoever asks; and what holds for every figure there is. */
final class FiguresTest extends TestCase
{
    private const EVENT = [1.0, 0.0, 1.0, 0.0, 0.0, 1.0];
    private const CHANCE = [0.9, 0.2, 0.4, 0.6, 0.1, 0.6];
    private const ACTUAL = [3.0, 5.0, 8.0, 2.0];
    private const PREDICTED = [2.5, 5.5, 6.0, 2.0];
    private const CLASSES = [0, 2, 1, 1];
    private const SHARES = [[0.6, 0.1, 0.3, 0.5], [0.3, 0.3, 0.4, 0.4], [0.1, 0.6, 0.3, 0.1]];

    /** @return iterable<string, array{string, string, float}> */
    public static function known(): iterable
    {
        $scores = new BinaryScores(self::EVENT, self::CHANCE);
        $numbers = NumberFigures::of(self::ACTUAL, self::PREDICTED);
        $several = ClassFigures::of(['a', 'b', 'c'], self::CLASSES, self::SHARES);
        yield 'AUC' => [Task::TWO, 'AUC', (float) $scores->auc()];
        yield 'average precision' => [Task::TWO, 'average precision', (float) $scores->averagePrecision()];
        yield 'KS' => [Task::TWO, 'ks', $scores->ks()['statistic']];
        yield 'log loss of an event' => [Task::TWO, 'log loss', array_sum($scores->logLosses()) / 6];
        yield 'Brier' => [Task::TWO, 'brier', array_sum($scores->squares()) / 6];
        yield 'accuracy of an event' => [Task::TWO, 'accuracy', 4 / 6];
        yield 'half within' => [Task::NUMBER, 'within50', 0.5];
        yield 'most within' => [Task::NUMBER, 'within 90%', 2.0];
        foreach (['RMSE' => 'rmse', 'MAE' => 'mae', 'R2' => 'r2', 'bias' => 'bias'] as $name => $key) {
            \assert(\is_float($numbers[$key]));
            yield $name => [Task::NUMBER, $name, $numbers[$key]];
        }
        foreach ([
            'log loss' => 'log_loss',
            'accuracy' => 'accuracy',
            'balanced accuracy' => 'balanced_accuracy',
            'kappa' => 'kappa',
            'macro AUC' => 'macro_auc',
        ] as $name => $key) {
            \assert(\is_float($several[$key]));
            yield $name.' of classes' => [Task::MORE, $name, $several[$key]];
        }
    }

    /** @return array{list<float>, Answers} outcomes and answers */
    private static function rows(string $task): array
    {
        return match ($task) {
            Task::TWO => [self::EVENT, new Answers(self::CHANCE)],
            Task::NUMBER => [self::ACTUAL, new Answers(self::PREDICTED)],
            default => [array_map(floatval(...), self::CLASSES), new Answers(array_merge(...array_map(null, ...self::SHARES)), 3)],
        };
    }

    #[DataProvider('known')]
    public function testItIsTheFigureOfTheJudgment(string $task, string $name, float $value): void
    {
        [$outcome, $answers] = self::rows($task);
        $figure = Figures::named($task, $name);
        self::assertEqualsWithDelta($value, $figure->value($outcome, $answers), 1e-12);
        // Rows without an answer do not count, nor those without a weight; equal weights change nothing.
        $width = $answers->width;
        $more = [...$outcome, $outcome[0], $outcome[0]];
        $said = new Answers([...$answers->values, ...array_fill(0, $width, \NAN), ...$answers->of(0)], $width);
        self::assertEqualsWithDelta($value, $figure->value($more, $said, [...array_fill(0, \count($outcome), 2.5), 1.0, 0.0]), 1e-12);
        self::assertNull($figure->value([$outcome[0]], new Answers(array_fill(0, $width, \NAN), $width)));
        // The better of two values comes first, whichever way the figure goes.
        if (!$figure instanceof Bias) {
            $worse = $figure->more ? $value - 0.1 : $value + 0.1;
            self::assertSame(
                [-1, 1, 1, -1, 0],
                [
                    $figure->order($value, $worse),
                    $figure->order($worse, $value),
                    $figure->order(null, $value),
                    $figure->order($value, null),
                    $figure->order(null, null),
                ],
            );
        }
    }

    public function testAReturnIsWhatActingFromTheBreakEvenChanceOnBrings(): void
    {
        // An action costs 6 and brings 18 where the event comes, so that it pays from a chance of a third on.
        $return = Figures::named(Task::TWO, 'return:6:18:0');
        $value = $return->value([1.0, 0.0, 1.0, 0.0], new Answers([0.5, 0.4, 0.2, 0.1]));
        self::assertEqualsWithDelta(100 * (12 - 6) / 4, $value, 1e-12);
        self::assertSame('return:6:18:0', $return->key);
        $vain = Figures::named(Task::TWO, 'return:6:18:2');
        self::assertEqualsWithDelta(0.0, $vain->value([1.0, 0.0], new Answers([0.39, 0.39])), 1e-12, 'it pays from 0.4 on');
        self::assertEqualsWithDelta(100 * (12 - 8) / 2, $vain->value([1.0, 0.0], new Answers([0.41, 0.41])), 1e-12);
        foreach (['return:', 'return:1:2', 'return:1:0:0', 'return:-1:2:0', 'return:a:2:0'] as $key) {
            try {
                Figures::named(Task::TWO, $key);
                self::fail($key);
            } catch (\InvalidArgumentException $e) {
                self::assertStringContainsString('cost of an action', $e->getMessage());
            }
        }
        $this->expectExceptionMessage('There is no figure');
        Figures::named(Task::NUMBER, 'return:6:18:0');
    }

    public function testAFigureThatIsNotDefinedIsNone(): void
    {
        self::assertNull(Figures::named(Task::NUMBER, 'R2')->value([2.0, 2.0], new Answers([1.0, 3.0])));
        self::assertNull(Figures::ranking(Task::TWO)->value([1.0, 1.0], new Answers([0.4, 0.6])));
        self::assertNull(
            Figures::named(Task::MORE, 'kappa')->value([1.0, 1.0], new Answers([0.1, 0.8, 0.1, 0.2, 0.7, 0.1], 3)),
            'one class alone',
        );
        self::assertNull(
            Figures::named(Task::MORE, 'macro AUC')->value([1.0, 0.0], new Answers([0.1, 0.8, 0.1, 0.6, 0.3, 0.1], 3)),
            'a class that does not occur',
        );
        self::assertSame(-1, (new Bias())->order(-0.1, 0.2), 'nearer to nothing');
        self::assertEqualsWithDelta(sqrt(5.0), (new Rmse())->together([[10, 1.0], [10, 3.0]]), 1e-12, 'a root of squares');
        self::assertSame(0.75, (new Auc())->together([[10, 0.7], [10, 0.8]]));
        $this->expectExceptionMessage('There is no figure "gain"; there are RMSE, MAE, R2, within 50%, within 90%, bias.');
        Figures::named(Task::NUMBER, 'gain');
    }

    /** @return iterable<string, array{Figure, string}> */
    public static function all(): iterable
    {
        foreach ([Task::TWO, Task::NUMBER, Task::MORE] as $task) {
            foreach (Figures::of($task) as $figure) {
                yield $figure->key.', '.$task => [$figure, $task];
            }
        }
        yield 'return' => [Figures::named(Task::TWO, 'return:5:9:1'), Task::TWO];
    }

    /** @return array{Sample, Sample} the second's answers are worse */
    private static function drawn(string $task, int $rows = 240): array
    {
        $random = Random::stream(5, $task);
        $outcome = $good = $bad = [];
        for ($i = 0; $i < $rows; ++$i) {
            $truth = $random->getInt(0, 2);
            $noise = static fn (int $most): float => $random->getInt(-$most, $most) / 100;
            $outcome[] = Task::TWO === $task ? (float) ($truth > 0) : (float) $truth;
            if (Task::MORE !== $task) {
                $middle = Task::TWO === $task ? 0.25 + 0.25 * $truth : (float) $truth;
                $good[] = max(0.01, min(Task::TWO === $task ? 0.99 : 9.0, $middle + $noise(30)));
                $bad[] = max(0.01, min(Task::TWO === $task ? 0.99 : 9.0, $middle + 0.2 + $noise(90)));
                continue;
            }
            foreach ([55, 95] as $which => $most) {
                $shares = array_map(static fn (int $k): float => max(0.01, ($k === $truth ? 1.0 : 0.4) + $noise($most)), [0, 1, 2]);
                $shares = array_map(static fn (float $s): float => $s / array_sum($shares), $shares);
                0 === $which ? array_push($good, ...$shares) : array_push($bad, ...$shares);
            }
        }
        \assert([] !== $outcome);
        $width = Task::MORE === $task ? 3 : 1;

        return [new Sample($outcome, new Answers($good, $width)), new Sample($outcome, new Answers($bad, $width))];
    }

    /** An interval holds its value, counting every row once is counting it, and drawing again knows the same figure. */
    #[DataProvider('all')]
    public function testWhatHoldsForEveryFigure(Figure $figure, string $task): void
    {
        [$good, $bad] = self::drawn($task);
        $value = $figure->value($good->outcome, $good->answers);
        $interval = $figure->interval($good);
        self::assertNotNull($interval);
        self::assertEqualsWithDelta($value, $interval->value, 'ks' === $figure->key ? 1e-3 : 1e-12);
        self::assertTrue($interval->low <= $interval->value && $interval->value <= $interval->high && $interval->low < $interval->high);
        self::assertTrue($interval->low >= ($figure->least ?? -\INF) && $interval->high <= ($figure->most ?? \INF));
        $again = $figure->redrawn($good);
        self::assertEqualsWithDelta($value, $again(array_fill(0, $good->rows(), 1)), 1e-12);
        self::assertEqualsWithDelta($value, $again(array_fill(0, $good->rows(), 3)), 1e-12);
        // Worse answers are worse, beyond two errors of the difference; the same answers differ by nothing.
        self::assertSame(-1, $figure->order($value, $figure->value($bad->outcome, $bad->answers)));
        $told = $figure->difference($good, $bad);
        self::assertNotNull($told);
        self::assertEqualsWithDelta($value - (float) $figure->value($bad->outcome, $bad->answers), $told[0], 1e-12);
        self::assertGreaterThan(2 * $told[1], abs($told[0]));
        self::assertSame(0.0, $figure->difference($good, $good)[0] ?? null);
        $baseline = $figure->baseline($good);
        self::assertNotNull($baseline);
        // The mean for all has no bias at all.
        self::assertLessThanOrEqual($figure instanceof Bias ? 1 : 0, $figure->order($value, $baseline), 'doing nothing is no better');
    }
}
