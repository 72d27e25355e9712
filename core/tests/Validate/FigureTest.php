<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Validate;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\ClassFigures;
use Dokimos\Core\Measure\NumberFigures;
use Dokimos\Core\Validate\Figure;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Each figure by its name is the one of the judgment, whoever asks. */
final class FigureTest extends TestCase
{
    private const EVENT = [1.0, 0.0, 1.0, 0.0, 0.0, 1.0];
    private const CHANCE = [0.9, 0.2, 0.4, 0.6, 0.1, 0.6];
    private const ACTUAL = [3.0, 5.0, 8.0, 2.0];
    private const PREDICTED = [2.5, 5.5, 6.0, 2.0];
    private const CLASSES = [0, 2, 1, 1];
    private const SHARES = [[0.6, 0.1, 0.3, 0.5], [0.3, 0.3, 0.4, 0.4], [0.1, 0.6, 0.3, 0.1]];

    /** @return iterable<string, array{string, string, float}> */
    public static function figures(): iterable
    {
        $scores = new BinaryScores(self::EVENT, self::CHANCE);
        $numbers = NumberFigures::of(self::ACTUAL, self::PREDICTED);
        $several = ClassFigures::of(['a', 'b', 'c'], self::CLASSES, self::SHARES);
        yield 'AUC' => [AboutLearner::TWO, 'AUC', (float) $scores->auc()];
        yield 'average precision' => [AboutLearner::TWO, 'average precision', (float) $scores->averagePrecision()];
        yield 'log loss of an event' => [AboutLearner::TWO, 'log loss', array_sum($scores->logLosses()) / 6];
        yield 'Brier' => [AboutLearner::TWO, 'brier', array_sum($scores->squares()) / 6];
        yield 'accuracy of an event' => [AboutLearner::TWO, 'accuracy', 4 / 6];
        foreach (['RMSE' => 'rmse', 'MAE' => 'mae', 'R2' => 'r2'] as $name => $key) {
            \assert(\is_float($numbers[$key]));
            yield $name => [AboutLearner::NUMBER, $name, $numbers[$key]];
        }
        foreach (['log loss' => 'log_loss', 'accuracy' => 'accuracy'] as $name => $key) {
            \assert(\is_float($several[$key]));
            yield $name.' of classes' => [AboutLearner::MORE, $name, $several[$key]];
        }
    }

    /** @return array{list<float>, list<float>} outcomes and answers */
    private static function rows(string $task): array
    {
        return match ($task) {
            AboutLearner::TWO => [self::EVENT, self::CHANCE],
            AboutLearner::NUMBER => [self::ACTUAL, self::PREDICTED],
            default => [array_map(floatval(...), self::CLASSES), array_merge(...array_map(null, ...self::SHARES))],
        };
    }

    #[DataProvider('figures')]
    public function testItIsTheFigureOfTheJudgment(string $task, string $name, float $value): void
    {
        [$outcome, $answers] = self::rows($task);
        $figure = Figure::named($task, $name);
        self::assertEqualsWithDelta($value, $figure->value($outcome, $answers), 1e-12);
        // Rows without an answer do not count, nor those without a weight; equal weights change nothing.
        $width = intdiv(\count($answers), \count($outcome));
        [$more, $said] = [[...$outcome, $outcome[0], $outcome[0]], [...$answers, ...array_fill(0, $width, \NAN), ...\array_slice($answers, 0, $width)]];
        self::assertEqualsWithDelta($value, $figure->value($more, $said, [...array_fill(0, \count($outcome), 2.5), 1.0, 0.0]), 1e-12);
        self::assertNull($figure->value([$outcome[0]], array_fill(0, $width, \NAN)));
        // The better of two values comes first, whichever way the figure goes.
        $worse = $figure->more ? $value - 0.1 : $value + 0.1;
        self::assertSame([-1, 1, 1, -1, 0], [$figure->order($value, $worse), $figure->order($worse, $value), $figure->order(null, $value), $figure->order($value, null), $figure->order(null, null)]);
    }

    public function testAFigureThatIsNotDefinedIsNone(): void
    {
        self::assertNull(Figure::named(AboutLearner::NUMBER, 'R2')->value([2.0, 2.0], [1.0, 3.0]));
        self::assertNull(Figure::of(AboutLearner::TWO)->value([1.0, 1.0], [0.4, 0.6]));
        $this->expectExceptionMessage('There is no figure "gain"; there are RMSE, MAE, R2.');
        Figure::named(AboutLearner::NUMBER, 'gain');
    }
}
