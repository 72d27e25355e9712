<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Measure;

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Trying;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** A record of weight two is the record twice; one of weight nought is not there. */
final class WeightsTest extends TestCase
{
    /** @return array{list<float>, list<float>, list<float>} outcomes, scores with ties, whole weights from 0 to 3 */
    private static function drawn(int $n = 120): array
    {
        $random = new Randomizer(new Mt19937(17));
        $event = $score = $weights = [];
        for ($i = 0; $i < $n; ++$i) {
            $score[] = $s = $random->getInt(1, 19) / 20;
            $event[] = (float) ($random->getInt(0, 100) < 100 * $s);
            $weights[] = (float) $random->getInt(0, 3);
        }

        return [$event, $score, $weights];
    }

    /**
     * @param list<float> $values
     * @param list<float> $weights
     *
     * @return list<float>
     */
    private static function repeated(array $values, array $weights): array
    {
        return array_merge(...array_map(static fn (float $v, float $w): array => array_fill(0, (int) $w, $v), $values, $weights));
    }

    public function testEqualWeightsChangeNothing(): void
    {
        [$event, $score] = self::drawn();
        foreach ([1.0, 2.5] as $weight) {
            $equal = array_fill(0, 120, $weight);
            self::assertEqualsWithDelta(
                array_values(Interval::mean($score)->toArray()),
                array_values(Interval::mean($score, $equal)->toArray()),
                1e-12,
            );
            self::assertEqualsWithDelta(
                array_values(DeLong::of($event, $score)->interval()->toArray()),
                array_values(DeLong::of($event, $score, $equal)->interval()->toArray()),
                1e-12,
            );
        }
    }

    public function testWholeWeightsAreRepetitions(): void
    {
        [$event, $score, $weights] = self::drawn();
        [$events, $scores] = [self::repeated($event, $weights), self::repeated($score, $weights)];
        self::assertEqualsWithDelta(Interval::mean($scores)->value, Interval::mean($score, $weights)->value, 1e-12);
        self::assertEqualsWithDelta(DeLong::of($events, $scores)->auc, DeLong::of($event, $score, $weights)->auc, 1e-12);
        self::assertEqualsWithDelta((new BinaryScores($event, $score, $weights))->auc(), DeLong::of($event, $score, $weights)->auc, 1e-12);
        foreach ([Task::TWO, Task::NUMBER] as $task) {
            self::assertEqualsWithDelta(
                Figures::ranking($task)->value($events, new Answers($scores)),
                Figures::ranking($task)->value($event, new Answers($score), $weights),
                1e-12,
            );
        }
        $chances = $many = [];
        foreach ($score as $i => $s) {
            array_push($chances, $s / 2, $s / 2, 1 - $s);
            for ($k = 0; $k < $weights[$i]; ++$k) {
                array_push($many, $s / 2, $s / 2, 1 - $s);
            }
        }
        self::assertEqualsWithDelta(
            Figures::ranking(Task::MORE)->value($events, new Answers($many, 3)),
            Figures::ranking(Task::MORE)->value($event, new Answers($chances, 3), $weights),
            1e-12,
        );
    }

    public function testIndependentRecordsThatCountMoreTellLess(): void
    {
        [$event, $score, $weights] = self::drawn();
        $wide = static fn (Interval $i): float => (float) $i->high - (float) $i->low;
        self::assertGreaterThan($wide(Interval::mean(self::repeated($score, $weights))), $wide(Interval::mean($score, $weights)));
        self::assertGreaterThan(
            $wide(DeLong::of(self::repeated($event, $weights), self::repeated($score, $weights))->interval()),
            $wide(DeLong::of($event, $score, $weights)->interval()),
        );
    }

    public function testWithoutAWeightAboveNoughtThereIsNoFigure(): void
    {
        self::assertNull(Interval::mean([1.0, 2.0], [0.0, 0.0])->value);
        self::assertNull(Interval::mean([1.0, 2.0], [0.0, 1.0])->low);
        self::assertNull(Figures::ranking(Task::NUMBER)->value([1.0], new Answers([2.0]), [0.0]));
        $this->expectException(\DomainException::class);
        DeLong::of([1.0, 0.0], [0.5, 0.4], [1.0, 0.0]);
    }

    /** @return iterable<string, array{string}> */
    public static function learners(): iterable
    {
        foreach (Learners::all() as $learner) {
            yield $learner->name => [$learner->name];
        }
    }

    /** Rows of weight 0 may say what they like. */
    #[DataProvider('learners')]
    public function testRowsWithoutWeightTeachNothing(string $learner): void
    {
        $task = Learners::tasks($learner)[0];
        $classes = match ($task) {
            Task::NUMBER => null,
            Task::TWO => ['no', 'yes'],
            default => ['a', 'b', 'c'],
        };
        $random = new Randomizer(new Mt19937(4));
        $x = $g = $y = $weights = [];
        for ($i = 0; $i < 300; ++$i) {
            $x[] = $a = $random->getInt(-100, 100) / 25;
            $g[] = ['p', 'q', 'r'][$random->getInt(0, 2)];
            $pull = $a + $random->getInt(-100, 100) / 50;
            $y[] = match ($task) {
                Task::NUMBER => $pull,
                Task::TWO => (float) ($pull > 0),
                default => $pull < -1 ? 0.0 : ($pull < 1 ? 1.0 : 2.0),
            };
            $weights[] = 0 === $i % 5 ? 0.0 : 1.0 + $i % 3;
        }
        $turned = array_map(
            static fn (float $v, float $w): float => 0.0 !== $w ? $v : (null === $classes ? -100 * $v : \count($classes) - 1 - $v),
            $y,
            $weights,
        );
        $table = Table::of(['x' => new NumberColumn($x), 'g' => CodedColumn::fromCells($g)]);
        $settings = ['forest' => ['trees' => 10], 'boosting' => ['trees' => 20]][$learner] ?? [];
        $answers = static fn (array $outcome): array => (new Trying(
            $table,
            ['x', 'g'],
            array_values(array_filter($outcome, is_float(...))),
            new Preparation([]),
            Learners::make($learner, $settings),
            $classes,
            $weights,
        ))->fold(
            range(0, 59),
            null,
            null,
            Figures::ranking($task),
        );
        [$one, $two] = [$answers($y), $answers($turned)];
        self::assertSame($one['answers']->values, $two['answers']->values);
        self::assertEquals($one['lost'], $two['lost'], 'nor do they count in what a shuffled column costs');
        self::assertNotSame(
            $one['answers']->values,
            (new Trying(
                $table,
                ['x', 'g'],
                $y,
                new Preparation([]),
                Learners::make($learner, $settings),
                $classes,
            ))->fold(range(0, 59))['answers']->values,
        );
    }

    public function testTheRateOfTheEventIsWeighted(): void
    {
        [$event, $score, $weights] = self::drawn();
        $table = Table::of(['x' => new NumberColumn($score)]);
        $model = (new Trying(
            $table,
            ['x'],
            $event,
            new Preparation([]),
            Learners::make('logistic'),
            ['no', 'yes'],
            $weights,
        ))->whole('y', 'yes');
        self::assertEqualsWithDelta(array_sum(self::repeated($event, $weights)) / array_sum($weights), $model->baseRate, 1e-12);
    }
}
