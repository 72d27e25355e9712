<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Baseline\Baseline;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Progress;
use Dokimos\Core\Stopped;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What every learner promises. */
final class LearnersTest extends TestCase
{
    private static function task(int $rows = 240): Task
    {
        mt_srand(12);
        $x = $g = $event = [];
        for ($i = 0; $i < $rows; ++$i) {
            $x[] = mt_rand(-100, 100) / 25;
            $g[] = ['a', 'b', 'c'][mt_rand(0, 2)];
            $event[] = (float) (mt_rand() / mt_getrandmax() < 1 / (1 + exp(-$x[$i])));
        }

        return new Task(
            Table::of(['x' => new NumberColumn($x), 'g' => CodedColumn::fromCells($g), '7' => new NumberColumn(array_reverse($x))]),
            ['x', 'g', '7'],
            $event,
            range(0, $rows - 1),
        );
    }

    /** @return iterable<string, array{string}> */
    public static function learners(): iterable
    {
        foreach (Learners::all() as $learner) {
            if (\in_array(Task::TWO, $learner->tasks, true)) {
                yield $learner->name => [$learner->name];
            }
        }
    }

    #[DataProvider('learners')]
    public function testChancesAreChancesAndTheModelReadsBackTheSame(string $name): void
    {
        $task = self::task();
        $model = Learners::make($name)->fit($task);
        $chances = $model->predict($task->table);
        self::assertCount(240, $chances);
        foreach ($chances as $c) {
            self::assertTrue($c > 0.0 && $c < 1.0);
        }
        /** @var array<string, mixed> $stored */
        $stored = json_decode(json_encode($model->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true);
        self::assertSame($chances, Learners::read($stored)->predict($task->table));
        self::assertSame([$chances[7], $chances[3]], $model->predict($task->table, [7, 3]), 'in the order asked for');
        self::assertSame([], $model->predict($task->table, []));
        self::assertNotSame('', Learners::title($name));
    }

    #[DataProvider('learners')]
    public function testTheSameTaskGivesTheSameBytes(string $name): void
    {
        self::assertSame(
            json_encode(Learners::make($name)->fit(self::task())->toArray()),
            json_encode(Learners::make($name)->fit(self::task())->toArray()),
        );
    }

    #[DataProvider('learners')]
    public function testRowsThatAreNotForTrainingDoNotMatter(string $name): void
    {
        $task = self::task();
        $training = range(0, 119);
        $event = [];
        foreach ($task->outcome as $i => $e) {
            $event[] = $i < 120 ? $e : 1.0 - $e;
        }
        $one = Learners::make($name)->fit(new Task($task->table, $task->inputs, $task->outcome, $training));
        $two = Learners::make($name)->fit(new Task($task->table, $task->inputs, $event, $training));
        self::assertSame($one->predict($task->table), $two->predict($task->table));
    }

    #[DataProvider('learners')]
    public function testUnknownOutcomesAndWeightsOfNothingCountAsAbsent(string $name): void
    {
        $task = self::task();
        $event = array_values(array_replace($task->outcome, array_fill_keys([3, 50, 111], \NAN)));
        $weights = array_values(array_replace(array_fill(0, 240, 1.0), array_fill_keys([4, 60], 0.0)));
        $kept = array_values(array_diff(range(0, 239), [3, 50, 111, 4, 60]));
        $plain = Learners::make($name)->fit(new Task($task->table, $task->inputs, $task->outcome, $kept, array_fill(0, 240, 1.0)));
        $with = Learners::make($name)->fit(new Task($task->table, $task->inputs, $event, range(0, 239), $weights));
        self::assertSame($plain->predict($task->table), $with->predict($task->table));
    }

    #[DataProvider('learners')]
    public function testNothingToLearnFromIsSaid(string $name): void
    {
        $task = self::task(10);
        $this->expectException(CannotFit::class);
        Learners::make($name)->fit(new Task($task->table, $task->inputs, array_fill(0, 10, \NAN), range(0, 9)));
    }

    public function testTheBaselineIsTheShareOfEvents(): void
    {
        $table = Table::of(['x' => new NumberColumn([1.0, 2.0, 3.0, 4.0])]);
        self::assertSame(0.5, (new Baseline())->fit(new Task($table, [], [1.0, 0.0, 1.0, 0.0], [0, 1, 2, 3]))->predict($table)[0]);
        self::assertSame(
            0.75,
            (new Baseline())->fit(new Task($table, [], [1.0, 0.0, 1.0, 0.0], [0, 1, 2, 3], [1.0, 1.0, 2.0, 0.0]))->predict($table)[0],
        );
        self::assertSame([], (new Baseline())->fit(new Task($table, [], [1.0, 0.0, 1.0, 0.0], [0, 1]))->columns());
    }

    public function testFittingStopsWhenTold(): void
    {
        $this->expectException(Stopped::class);
        Learners::make('logistic')->fit(self::task(), new class implements Progress {
            public function report(float $share, string $message = ''): void
            {
                throw new Stopped('Cancelled.');
            }
        });
    }

    /** @return iterable<string, array{\Closure(): mixed, class-string<\Throwable>, string}> */
    public static function mistakes(): iterable
    {
        yield 'no such learner' => [static fn () => Learners::make('oracle'), CannotFit::class, 'There is no learner called "oracle".'];
        yield 'no such setting' => [
            static fn () => Learners::make('logistic', ['depth' => 3]),
            CannotFit::class,
            'Logistic regression has no setting called "depth".',
        ];
        yield 'events for other rows' => [
            static fn () => new Task(Table::of(['x' => new NumberColumn([1.0])]), [], [1.0, 0.0], [0]),
            \LengthException::class,
            'one value per row',
        ];
        yield 'weights for other rows' => [
            static fn () => new Task(Table::of(['x' => new NumberColumn([1.0])]), [], [1.0], [0], []),
            \LengthException::class,
            'one value per row',
        ];
    }

    /**
     * @param \Closure(): mixed        $mistake
     * @param class-string<\Throwable> $class
     */
    #[DataProvider('mistakes')]
    public function testMistakesAreNamed(\Closure $mistake, string $class, string $says): void
    {
        $this->expectException($class);
        $this->expectExceptionMessage($says);
        $mistake();
    }
}
