<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Baseline\Baseline;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\TestCase;

final class LogisticPropertiesTest extends TestCase
{
    /** @return array{Table, list<float>} */
    private static function data(int $n = 400, int $seed = 11): array
    {
        mt_srand($seed);
        $a = $b = $kind = $event = [];
        for ($i = 0; $i < $n; ++$i) {
            $a[] = mt_rand(0, 1000) / 100;
            $b[] = mt_rand(0, 1000) / 100;
            $kind[] = ['red', 'green', 'blue'][mt_rand(0, 2)];
            $z = -2 + 0.4 * $a[$i] - 0.2 * $b[$i] + ('red' === $kind[$i] ? 0.8 : 0);
            $event[] = (float) (mt_rand(0, 9999) / 10000 < 1 / (1 + exp(-$z)));
        }

        return [Table::of(['a' => new NumberColumn($a), 'b' => new NumberColumn($b), 'kind' => CodedColumn::fromCells($kind)]), $event];
    }

    /**
     * @param list<float>  $event
     * @param list<string> $inputs
     * @param ?list<int>   $rows
     */
    private static function fit(Table $table, array $event, array $inputs = ['a', 'b', 'kind'], ?array $rows = null): LogisticModel
    {
        return (new LogisticRegression())->fit(new Task($table, $inputs, $event, $rows ?? range(0, $table->rows - 1)));
    }

    public function testRowOrderDoesNotMatter(): void
    {
        [$table, $event] = self::data();
        $order = range(0, $table->rows - 1);
        shuffle($order);
        $one = self::fit($table, $event);
        $two = self::fit($table->take($order), array_map(static fn (int $r) => $event[$r], $order));
        foreach ($one->coefficients as $i => $c) {
            self::assertEqualsWithDelta($c->estimate, $two->coefficients[$i]->estimate, 1e-9);
            self::assertEqualsWithDelta($c->error, $two->coefficients[$i]->error, 1e-9);
        }
    }

    public function testUnitsDoNotMatter(): void
    {
        [$table, $event] = self::data();
        $scaled = $table->with('a', new NumberColumn(array_map(static fn (float $v) => 1e6 + 1000 * $v, $table->number('a')->values)));
        self::assertEqualsWithDelta(self::fit($table, $event)->predict($table), self::fit($scaled, $event)->predict($scaled), 1e-8);
    }

    public function testAWeightOfTwoIsTheRowTwice(): void
    {
        [$table, $event] = self::data(200);
        $rows = range(0, 199);
        $twice = [...$rows, ...range(0, 99)];
        $weights = array_map(static fn (int $r) => $r < 100 ? 2.0 : 1.0, $rows);
        $weighted = (new LogisticRegression())->fit(new Task($table, ['a', 'b', 'kind'], $event, $rows, $weights));
        $repeated = self::fit($table->take($twice), array_map(static fn (int $r) => $event[$r], $twice));
        foreach ($weighted->coefficients as $i => $c) {
            self::assertEqualsWithDelta($repeated->coefficients[$i]->estimate, $c->estimate, 1e-9);
            self::assertEqualsWithDelta($repeated->coefficients[$i]->error, $c->error, 1e-9);
        }
    }

    public function testChancesAddUpToTheEvents(): void
    {
        [$table, $event] = self::data();
        self::assertEqualsWithDelta(array_sum($event), array_sum(self::fit($table, $event)->predict($table)), 1e-6);
    }

    public function testARepeatedAndAConstantColumnAreLeftOutAndNamed(): void
    {
        [$table, $event] = self::data();
        $more = $table->with(
            'copy',
            new NumberColumn(array_map(static fn (float $v) => 3 * $v + 1, $table->number('a')->values)),
        )->with('same', new NumberColumn(array_values(array_fill(0, $table->rows, 7.0))));
        $model = self::fit($more, $event, ['a', 'b', 'kind', 'copy', 'same']);
        self::assertSame(['copy'], $model->aliased);
        self::assertArrayHasKey('same', $model->coding->leftOut);
        self::assertEqualsWithDelta(self::fit($table, $event)->predict($table), $model->predict($more), 1e-9);
    }

    public function testAMissingValueGivesNoChanceAndAnUnseenLevelGivesOne(): void
    {
        [$table, $event] = self::data();
        $new = Table::of([
            'a' => new NumberColumn([1.0, \NAN, 2.0]),
            'b' => new NumberColumn([1.0, 1.0, 2.0]),
            'kind' => CodedColumn::fromCells(['red', 'red', 'violet']),
        ]);
        [$first, $second, $third] = self::fit($table, $event)->predict($new);
        self::assertGreaterThan(0.0, $first);
        self::assertNan($second);
        self::assertGreaterThan(0.0, $third);
    }

    public function testAModelReadBackPredictsTheSameBytes(): void
    {
        [$table, $event] = self::data();
        foreach ([self::fit($table, $event), (new Baseline())->fit(new Task($table, [], $event, range(0, $table->rows - 1)))] as $model) {
            /** @var array<string, mixed> $stored */
            $stored = json_decode(json_encode($model->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true);
            self::assertSame($model->predict($table), Learners::read($stored)->predict($table));
        }
    }

    public function testWhatCannotBeFittedIsSaidInASentence(): void
    {
        [$table] = self::data(30);
        $cases = [
            'same outcome' => array_values(array_fill(0, 30, 1.0)),
            'No training row' => array_values(array_fill(0, 30, \NAN)),
        ];
        foreach ($cases as $says => $event) {
            try {
                self::fit($table, $event);
                self::fail('nothing was said');
            } catch (CannotFit $e) {
                self::assertStringContainsString($says, $e->getMessage());
            }
        }
    }

    public function testMoreColumnsThanRowsEndsWithASentenceOrAFit(): void
    {
        mt_srand(1);
        $columns = $event = [];
        for ($j = 0; $j < 30; ++$j) {
            $columns['x'.$j] = new NumberColumn(array_map(static fn () => mt_rand() / 1e9, range(1, 12)));
        }
        for ($i = 0; $i < 12; ++$i) {
            $event[] = (float) ($i % 2);
        }
        $model = self::fit(Table::of($columns), $event, array_keys($columns));
        self::assertNotNull($model->separated);
        foreach ($model->predict(Table::of($columns)) as $p) {
            self::assertGreaterThan(0.0, $p);
            self::assertLessThan(1.0, $p);
        }
    }
}
