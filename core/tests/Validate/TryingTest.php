<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Validate;

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Random;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\FoldFit;
use Dokimos\Core\Validate\TrialData;
use Dokimos\Core\Validate\Trying;
use PHPUnit\Framework\TestCase;

/** A fold prepared once, fitted many times; and learning from a part of the rows. */
final class TryingTest extends TestCase
{
    /** @return array{Table, list<float>} */
    private static function rows(int $rows = 300): array
    {
        $random = Random::stream(8, 'trying');
        $x = array_map(static fn (): float => 0 === $random->getInt(0, 9) ? \NAN : $random->getInt(-50, 50) / 10, range(1, $rows));
        $y = array_map(static fn (float $v): float => (float) ((is_nan($v) ? 0.0 : $v) + $random->getInt(-30, 30) / 10 > 0), $x);

        return [Table::of(['x' => new NumberColumn($x)]), $y];
    }

    public function testAPreparedFoldServesEverySettingThatSharesItsSteps(): void
    {
        [$table, $y] = self::rows();
        $steps = Preparation::fromArray([['step' => 'fill_missing', 'columns' => ['x'], 'with' => 'median']]);
        $validation = range(0, 59);
        $fold = (new TrialData($table, ['x'], $y, $steps))->prepared(range(60, 299), $validation);
        $auc = Figures::ranking(Task::TWO);
        foreach ([
            ['logistic', []],
            ['tree', ['leaf' => 5]],
            ['tree', ['leaf' => 40]],
            ['boosting', ['trees' => 10, 'balance' => 'weighted up']],
        ] as [$learner, $settings]) {
            $alone = (new Trying($table, ['x'], $y, $steps, Learners::make($learner, $settings)))->fold($validation, null, null, $auc);
            $shared = FoldFit::of($fold, Learners::make($learner, $settings));
            self::assertSame(
                [$alone['answers']->values, $alone['training']->values, $alone['lost']],
                [$shared->answers()->values, $shared->onTraining()->values, $shared->lost($auc)],
                $learner,
            );
        }
    }

    public function testAPartOfTheRowsIsSoManyOfThemAndTheSameEachTime(): void
    {
        [$table, $y] = self::rows();
        $learner = Learners::make('tree', ['judged' => 0.0]);
        $fold = static fn (?int $part): array => (new Trying(
            $table,
            ['x'],
            $y,
            new Preparation([]),
            $learner,
            part: $part,
        ))->fold(range(0, 59));
        $some = $fold(100);
        self::assertCount(100, $some['trainingRows']);
        self::assertSame($some['trainingRows'], $fold(100)['trainingRows']);
        $sorted = $some['trainingRows'];
        sort($sorted);
        self::assertSame($sorted, $some['trainingRows'], 'in the order of the table');
        self::assertSame([], array_intersect($some['trainingRows'], range(0, 59)), 'none of those judged on');
        self::assertGreaterThan(
            20,
            \count(array_filter($some['trainingRows'], static fn (int $row): bool => $row >= 200)),
            'from all over the table',
        );
        self::assertSame(60, $some['answers']->rows());
        self::assertCount(240, $fold(5000)['trainingRows'], 'no more than there are');
        self::assertSame($fold(null)['answers']->values, $fold(240)['answers']->values);
    }
}
