<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Validate;

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Progress;
use Dokimos\Core\Random;
use Dokimos\Core\Stopped;
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

    /** A model that is quick to learn and slow to answer is asked once for each column: whoever waits is heard in between. */
    public function testAFoldTellsWhereItStandsAndStopsBetweenColumns(): void
    {
        $random = Random::stream(9, 'columns');
        $columns = [];
        foreach (range(1, 6) as $j) {
            $columns["x$j"] = new NumberColumn(array_map(static fn (): float => $random->getInt(-50, 50) / 10, range(1, 300)));
        }
        $y = array_map(static fn (float $v): float => (float) ($v + $random->getInt(-30, 30) / 10 > 0), $columns['x1']->values);
        $auc = Figures::ranking(Task::TWO);
        $fold = static fn (Progress $progress): array => (new Trying(
            Table::of($columns),
            array_keys($columns),
            $y,
            new Preparation([]),
            Learners::make('neighbors', ['find' => false, 'k' => 5]),
        ))->fold(range(0, 59), null, $progress, $auc);
        $recorder = new class implements Progress {
            /** @var list<float> */
            public array $shares = [];
            public float $until = 1.0;

            public function report(float $share, string $message = ''): void
            {
                $this->shares[] = $share;
                $share <= $this->until || throw new Stopped('Cancelled.');
            }
        };
        self::assertCount(6, $fold($recorder)['lost']);
        $sorted = $recorder->shares;
        sort($sorted);
        self::assertSame($sorted, $recorder->shares, 'it never goes back');
        self::assertLessThanOrEqual(1.0, $sorted[\count($sorted) - 1] ?? 2.0);
        self::assertGreaterThanOrEqual(6, \count(array_filter($recorder->shares, static fn (float $s): bool => $s >= 0.6)));
        $heard = \count($recorder->shares);
        [$recorder->shares, $recorder->until] = [[], 0.8];
        try {
            $fold($recorder);
            self::fail('It went on.');
        } catch (Stopped) {
            self::assertLessThan($heard, \count($recorder->shares));
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
