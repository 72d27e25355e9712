<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Decide;

use Dokimos\Core\Blend\Mixing;
use Dokimos\Core\Decide\Blended;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Trying;
use PHPUnit\Framework\TestCase;

/** Whole trials that answer together: where one cannot, the others do, and the record says so. */
final class BlendedTest extends TestCase
{
    private static function records(int $rows): Table
    {
        mt_srand(4);
        $columns = ['age' => [], 'cost' => []];
        for ($i = 0; $i < $rows; ++$i) {
            $columns['age'][] = 0 === $i % 7 ? \NAN : (float) mt_rand(0, 40);
            $columns['cost'][] = (float) mt_rand(0, 100);
        }

        return Table::of(array_map(static fn (array $c): NumberColumn => new NumberColumn($c), $columns));
    }

    private static function blend(): ScoringModel
    {
        $table = self::records(280);
        $y = array_map(
            static fn (float $age, float $cost): float => ($age > 20 ? 0.7 : 0.2) + $cost / 500 > mt_rand(0, 99) / 100 ? 1.0 : 0.0,
            $table->column('age') instanceof NumberColumn ? $table->column('age')->values : [],
            $table->column('cost') instanceof NumberColumn ? $table->column('cost')->values : [],
        );
        $trying = static fn (string $learner): Trying => new Trying(
            $table,
            $table->names(),
            $y,
            Preparation::fromArray([]),
            Learners::make($learner),
        );
        $members = [
            // What drops rows, or needs a value, has no answer for them.
            $trying('logistic')->whole('y', 'yes'),
            $trying('tree')->whole('y', 'yes'),
            $trying('naive-bayes')->whole('y', 'yes'),
        ];
        $answers = array_map(static fn (ScoringModel $m): Answers => $m->answers($table), $members);
        $blended = new Blended(
            $members,
            [
                ['trial' => 4, 'name' => 'Logistic regression'],
                ['trial' => 5, 'name' => 'Decision tree'],
                ['trial' => 9, 'name' => 'Naive Bayes'],
            ],
            Mixing::fit(Mixing::MEAN, $answers, range(0, 279), $y, null, ['no', 'yes']),
            ['no', 'yes'],
            [],
        );

        return ScoringModel::trained('y', 'yes', $table, Preparation::fromArray([])->fit($table, range(0, 279)), $blended, 0.4);
    }

    public function testARecordSaysWhoDidNotAnswer(): void
    {
        $blend = self::blend();
        $new = self::records(21);
        $lines = $blend->score($new);
        foreach ($lines as $row => $line) {
            self::assertNotNull($line['chance']);
            self::assertSame(0 === $row % 7 ? 'Answered without trial 4 (Logistic regression).' : '', $line['reasons']);
        }
        // The others answer with their weights raised: the mean of two.
        $model = $blend->model;
        self::assertInstanceOf(Blended::class, $model);
        self::assertSame(['trial' => 4, 'name' => 'Logistic regression', 'weight' => 1 / 3], $model->members()[0]);
        $back = ScoringModel::fromArray((array) json_decode(
            json_encode($blend->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION),
            true,
            512,
            \JSON_THROW_ON_ERROR,
        ));
        self::assertSame($lines, $back->score($new));
    }

    public function testRowsAskedAloneAnswerTheSame(): void
    {
        $blend = self::blend();
        $new = self::records(21);
        $model = $blend->model;
        $all = $model->predict($new);
        self::assertSame([$all[3], $all[14], $all[0]], $model->predict($new, [3, 14, 0]));
        self::assertSame(Task::TWO, $blend->task);
        // A table of the same size is another table: nothing said of one is taken for the other.
        $cost = $new->column('cost');
        self::assertInstanceOf(NumberColumn::class, $cost);
        $turned = $new->with('cost', new NumberColumn(array_map(static fn (float $v): float => 100 - $v, $cost->values)));
        self::assertNotSame($all, $model->predict($turned));
        self::assertSame($all, $model->predict($new));
    }
}
