<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Balance;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Learn\Tree\DecisionTree;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Classes that are made to count the same must not come out as if they occurred as often (decision 7). */
final class BalanceTest extends TestCase
{
    private const ROWS = 4000;

    /** @param int $classes the first is frequent, the others rare */
    private static function task(int $classes): Task
    {
        $random = new Randomizer(new Mt19937(4));
        $x = $z = $y = [];
        for ($i = 0; $i < 2 * self::ROWS; ++$i) {
            $x[] = $random->getInt(0, 1000) / 100;
            $z[] = $random->getInt(0, 1000) / 100;
            $rare = 1 / (1 + exp(4.5 - 0.4 * $x[$i]));
            $y[] = $random->getInt(0, 999_999) / 1e6 < $rare ? (2 === $classes || $z[$i] > 5 ? 1.0 : 2.0) : 0.0;
        }

        return new Task(
            Table::of(['x' => new NumberColumn($x), 'z' => new NumberColumn($z)]),
            ['x', 'z'],
            $y,
            range(0, self::ROWS - 1),
            null,
            2 === $classes ? ['no', 'yes'] : ['a', 'b', 'c'],
        );
    }

    /** @return iterable<string, array{string, string, int}> */
    public static function learners(): iterable
    {
        foreach ([Balance::WEIGHTED, Balance::THINNED] as $how) {
            foreach (['logistic', 'tree', 'forest', 'boosting'] as $learner) {
                yield $learner.' '.$how => [$learner, $how, 2];
            }
            foreach (['multinomial', 'tree', 'forest', 'boosting'] as $learner) {
                yield $learner.', three classes, '.$how => [$learner, $how, 3];
            }
        }
    }

    #[DataProvider('learners')]
    public function testChancesAreBroughtBack(string $learner, string $how, int $classes): void
    {
        $task = self::task($classes);
        $settings = ['balance' => $how] + ([
            'forest' => ['trees' => 40, 'leaf' => 20],
            'boosting' => ['trees' => 60],
            'tree' => ['judged' => 0.0],
        ][$learner] ?? []);
        $model = Learners::make($learner, $settings)->fit($task);
        $new = range(self::ROWS, 2 * self::ROWS - 1);
        $shares = $model instanceof TellsClasses ? $model->shares($task->table, $new) : [1 => $model->predict($task->table, $new)];
        foreach ($shares as $class => $own) {
            $true = \count(array_filter(
                \array_slice($task->outcome, self::ROWS),
                static fn (float $y) => (int) $y === $class,
            )) / self::ROWS;
            self::assertEqualsWithDelta($true, array_sum($own) / self::ROWS, 0.035, 'class '.$class);
        }
        self::assertStringContainsString('brought back', implode(' ', $model->notes()));
        $back = Learners::read((array) json_decode(
            json_encode($model->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION),
            true,
        ));
        self::assertSame($model->predict($task->table), $back->predict($task->table));
        self::assertSame($model->notes(), $back->notes());
    }

    public function testTheSlopeOfALogisticModelIsKept(): void
    {
        $task = self::task(2);
        $plain = Learners::make('logistic')->fit($task)->predict($task->table, [0, 1, 2, 3]);
        foreach (Learners::make(
            'logistic',
            ['balance' => Balance::WEIGHTED],
        )->fit($task)->predict($task->table, [0, 1, 2, 3]) as $i => $p) {
            self::assertEqualsWithDelta(log($plain[$i] / (1 - $plain[$i])), log($p / (1 - $p)), 0.35);
        }
    }

    public function testLeavesCountRowsAsTheyOccur(): void
    {
        $task = self::task(2);
        $tree = (new DecisionTree(['balance' => Balance::WEIGHTED, 'judged' => 0.0]))->fit($task);
        $events = array_sum(\array_slice($task->outcome, 0, self::ROWS));
        self::assertEqualsWithDelta([self::ROWS - $events, $events], $tree->nodes[0]->counts, 1e-6);
        self::assertGreaterThan(3, \count($tree->nodes));
        $one = new Task($task->table, $task->inputs, array_fill(0, 2 * self::ROWS, 1.0), $task->rows);
        self::assertNull(Balance::of($one, Balance::THINNED)->factors, 'one class has nothing to be balanced with');
    }
}
