<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Baseline\Baseline;
use Dokimos\Core\Learn\Baseline\BaselineModel;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Rules\RuleLearner;
use Dokimos\Core\Learn\Rules\RuleModel;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Rules drawn from a tree, and the baselines. */
final class RulesTest extends TestCase
{
    /** An event nearly always over 60 in the south, seldom elsewhere; noise says nothing. */
    private static function task(int $rows = 2000): Task
    {
        $random = new Randomizer(new Mt19937(21));
        $days = $where = $noise = $y = [];
        for ($i = 0; $i < $rows; ++$i) {
            $days[] = 0 === $i % 17 ? \NAN : (float) $random->getInt(0, 100);
            $where[] = ['north', 'south'][$random->getInt(0, 1)];
            $noise[] = (float) $random->getInt(0, 50);
            $y[] = (float) ($random->getInt(0, 99) < ($days[$i] > 60 && 'south' === $where[$i] ? 85 : 8));
        }

        return new Task(
            Table::of(['days' => new NumberColumn($days), 'where' => CodedColumn::fromCells($where), 'noise' => new NumberColumn($noise)]),
            ['days', 'where', 'noise'],
            $y,
            range(0, $rows - 1),
        );
    }

    public function testItFindsTheSentenceThatMadeTheData(): void
    {
        $task = self::task();
        $model = (new RuleLearner())->fit($task);
        $first = $model->rules[0];
        self::assertSame(1, $first->class);
        self::assertSame(['days', 'where'], self::sorted(array_keys($first->path)), 'noise is no part of the rule');
        self::assertEqualsWithDelta(60.5, (float) $first->path['days']->over, 3.0);
        self::assertSame(['south'], $first->path['where']->levels);
        self::assertEqualsWithDelta(0.85, $first->judged[1] / array_sum($first->judged), 0.12);
        self::assertSame([], $model->rules[\count($model->rules) - 1]->path, 'the last rule is for every other record');
        self::assertStringContainsString('where south', $first->sentence());
    }

    /**
     * @param list<int|string> $names
     *
     * @return list<int|string>
     */
    private static function sorted(array $names): array
    {
        sort($names);

        return $names;
    }

    public function testEveryRowIsCountedOnce(): void
    {
        $task = self::task(700);
        $model = (new RuleLearner(['leaf' => 15, 'judged' => 0.3]))->fit($task);
        $grown = $judged = 0.0;
        foreach ($model->rules as $rule) {
            $grown += array_sum($rule->counts);
            $judged += array_sum($rule->judged);
        }
        self::assertSame([490.0, 210.0], [$grown, $judged]);
        $by = array_count_values($model->first($task->table));
        foreach ($model->rules as $i => $rule) {
            self::assertSame((int) (array_sum($rule->counts) + array_sum($rule->judged)), $by[$i] ?? 0);
        }
        foreach ($model->first($task->table) as $row => $i) {
            foreach (\array_slice($model->rules, 0, $i) as $before) {
                self::assertSame([], RuleModel::met($task->table, $before, [$row]));
            }
        }
    }

    public function testNoiseMakesNoRule(): void
    {
        $task = self::task(400);
        $y = (new Randomizer(new Mt19937(2)))->shuffleArray($task->outcome);
        /** @var list<float> $y */
        $model = (new RuleLearner(['confidence' => 0.01]))->fit(new Task($task->table, $task->inputs, $y, $task->rows));
        self::assertLessThanOrEqual(2, \count($model->rules));
        $this->expectException(CannotFit::class);
        (new RuleLearner())->fit(new Task($task->table, $task->inputs, $task->outcome, $task->rows, null, null));
    }

    public function testOneColumnAndTheMedian(): void
    {
        $task = self::task();
        $model = (new Baseline(['answer' => 'rule by one column']))->fit(new Task(
            $task->table,
            ['noise', 'days'],
            $task->outcome,
            $task->rows,
        ));
        self::assertInstanceOf(TreeModel::class, $model);
        self::assertSame(['days'], $model->columns());
        self::assertStringContainsString('best of 2 columns', $model->notes()[0]);
        foreach ([
            [[5.0, 1.0, 9.0], null, 5.0],
            [[5.0, 1.0, 9.0, 7.0], null, 6.0],
            [[5.0, 1.0, 9.0], [1.0, 1.0, 3.0], 9.0],
            [[4.0, 2.0], [1.0, 1.0], 3.0],
            [[8.0], null, 8.0],
        ] as [$y, $weights, $median]) {
            $table = Table::of(['x' => new NumberColumn($y)]);
            $model = (new Baseline(['answer' => 'median']))->fit(new Task($table, ['x'], $y, array_keys($y), $weights, null));
            self::assertInstanceOf(BaselineModel::class, $model);
            self::assertSame([$median], $model->values);
        }
    }
}
