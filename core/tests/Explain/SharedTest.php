<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\GoesTogether;
use Dokimos\Core\Explain\PermutationImportance;
use Dokimos\Core\Explain\Together;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\FoldFit;
use Dokimos\Core\Validate\PairsByChance;
use Dokimos\Core\Validate\TrialData;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** What columns carry together: shuffled as one, and acting together beyond what chance shows. */
final class SharedTest extends TestCase
{
    /** @return array{Table, list<float>} a and b hardly differ and carry half each; c is alone; n is nothing */
    private static function twins(int $rows = 400): array
    {
        $random = new Randomizer(new Mt19937(2));
        $a = $b = $c = $n = $y = [];
        for ($i = 0; $i < $rows; ++$i) {
            $a[] = $v = $random->getInt(-1000, 1000) / 500;
            $b[] = $v + $random->getInt(-100, 100) / 500;
            $c[] = $random->getInt(-1000, 1000) / 500;
            $n[] = $random->getInt(-1000, 1000) / 500;
            $y[] = $a[$i] + $b[$i] + $c[$i];
        }

        return [
            Table::of(['a' => new NumberColumn($a), 'n' => new NumberColumn($n), 'c' => new NumberColumn($c), 'b' => new NumberColumn($b)]),
            $y,
        ];
    }

    private static function rmse(): Figure
    {
        return Figures::named(Task::NUMBER, 'rmse');
    }

    public function testColumnsAreGroupedWhereEachGoesWithAnotherOne(): void
    {
        [$table] = self::twins();
        self::assertSame([['a', 'b']], GoesTogether::groups($table, ['a', 'n', 'c', 'b']));
        self::assertSame([], GoesTogether::groups($table, ['a', 'n', 'c']));
        // A chain is one group, whatever the order of its columns; a category joins by what it tells of a number.
        $far = array_map(static fn (float $v, float $w): float => $v + 1.2 * $w, $table->number('b')->values, $table->number('n')->values);
        $coded = CodedColumn::fromCells(array_map(
            static fn (float $v): string => $v > 0.5 ? 'high' : ($v > -0.5 ? 'middle' : 'low'),
            $table->number('c')->values,
        ));
        $more = $table->with('far', new NumberColumn($far))->with('coded', $coded);
        foreach ([['far', 'a', 'b', 'c', 'coded'], ['coded', 'b', 'c', 'far', 'a'], ['a', 'coded', 'far', 'c', 'b']] as $order) {
            $groups = array_map(static function (array $g): string {
                sort($g);

                return implode(' ', $g);
            }, GoesTogether::groups($more, $order));
            sort($groups);
            self::assertSame(['a b far', 'c coded'], $groups);
        }
    }

    public function testShuffledAsOneTheyLoseWhatNeitherLosesAlone(): void
    {
        [$table, $y] = self::twins();
        $answers = static fn (Table $t): Answers => new Answers(array_map(
            static fn (float $a, float $b, float $c): float => $a + $b + $c,
            $t->number('a')->values,
            $t->number('b')->values,
            $t->number('c')->values,
        ));
        $figure = static fn (Answers $told): ?float => self::rmse()->value($y, $told);
        $single = PermutationImportance::of($answers, $figure, $table, ['a', 'b', 'c', 'n'], 5, 1);
        $groups = ['a' => ['a'], 'both' => ['a', 'b'], 'all' => ['a', 'b', 'c'], 'none' => ['n']];
        $together = PermutationImportance::ofGroups($answers, $figure, $table, $groups, 5, 1);
        self::assertSame($single['a'], $together['a'], 'a group of one is its column');
        self::assertSame([0.0, 0.0, 0.0, 0.0, 0.0], $together['none']);
        $mean = static fn (array $of): float => array_sum($of) / \count($of);
        // Both together move as 2a: twice what one moves alone. Shuffled apart they would hold each other up.
        self::assertEqualsWithDelta(2.0 * $mean($single['a']), $mean($together['both']), 0.15 * $mean($together['both']));
        self::assertGreaterThan($mean($together['both']), $mean($together['all']));
        // Rows of a group stay as they are: what is a function of the difference of both is not touched by it.
        $difference = static fn (Table $t): Answers => new Answers(array_map(
            static fn (float $a, float $b): float => $a > $b ? 1.0 : 0.0,
            $t->number('a')->values,
            $t->number('b')->values,
        ));
        $is = array_map(
            static fn (float $a, float $b): float => $a > $b ? 1.0 : 0.0,
            $table->number('a')->values,
            $table->number('b')->values,
        );
        $lost = PermutationImportance::ofGroups(
            $difference,
            static fn (Answers $told): float => array_sum($told->values),
            $table,
            ['both' => ['a', 'b'], 'a' => ['a']],
            3,
            1,
        );
        self::assertSame([0.0, 0.0, 0.0], $lost['both']);
        self::assertNotSame(array_sum($is), 0.0);
    }

    public function testAFoldLosesByGroupsWhatItLosesByColumns(): void
    {
        [$table, $y] = self::twins();
        $data = new TrialData($table, ['a', 'n', 'c', 'b'], $y, new Preparation([]), null);
        $fit = FoldFit::of(
            $data->prepared(range(0, 299), range(300, 399)),
            Learners::make('linear', ['penalty' => 'ridge', 'price' => 10.0]),
        );
        $plain = $fit->lost(self::rmse());
        $asked = array_map(
            static fn (string $c): array => [$c],
            array_combine(array_keys($plain), array_map(strval(...), array_keys($plain))),
        );
        self::assertSame($plain, $fit->lostBy(self::rmse(), $asked, 1));
        $more = $fit->lostBy(self::rmse(), $asked + ['both' => ['a', 'b']], 8);
        self::assertGreaterThan($more['a'] + 0.1, $more['both']);
        self::assertGreaterThan($more['b'] + 0.1, $more['both']);
        self::assertEqualsWithDelta($plain['c'], $more['c'], 0.25 * $plain['c'], 'more shuffles are the same, steadier');
    }

    /** @return iterable<string, array{string, string, bool}> learner, task, whether two columns really act together */
    public static function pairs(): iterable
    {
        foreach (['tree' => ['depth' => 4], 'boosting' => []] as $learner => $_) {
            foreach ([Task::NUMBER, Task::TWO] as $kind) {
                yield "$learner, $kind, together" => [$learner, $kind, true];
                yield "$learner, $kind, each alone" => [$learner, $kind, false];
            }
        }
        yield 'logistic, two classes, each alone' => ['logistic', Task::TWO, false];
        yield 'linear, number, each alone' => ['linear', Task::NUMBER, false];
    }

    #[DataProvider('pairs')]
    public function testWhatReallyActsTogetherIsClearOfChanceAndNothingElse(string $name, string $kind, bool $acts): void
    {
        $random = new Randomizer(new Mt19937(9));
        $x = $z = $w = $y = [];
        for ($i = 0; $i < 500; ++$i) {
            $x[] = $random->getInt(0, 100) / 100;
            $z[] = $random->getInt(0, 100) / 100;
            $w[] = $random->getInt(0, 100) / 100;
            $pull = $acts ? 4.0 * (($x[$i] > 0.5) === ($z[$i] > 0.5) ? 1.0 : -1.0) : 4.0 * ($x[$i] + $z[$i] - 1.0);
            $noise = $random->getInt(-100, 100) / 50;
            $y[] = Task::NUMBER === $kind ? $pull + $noise : (float) ($random->getInt(0, 999) / 1000 < 1 / (1 + exp(-$pull / 2)));
        }
        $table = Table::of(['x' => new NumberColumn($x), 'z' => new NumberColumn($z), 'w' => new NumberColumn($w)]);
        $data = new TrialData($table, ['x', 'z', 'w'], $y, new Preparation([]), Task::NUMBER === $kind ? null : ['no', 'yes']);
        $settings = ['tree' => ['depth' => 4, 'leaf' => 15, 'divide' => 30], 'boosting' => ['trees' => 60, 'patience' => 0]][$name] ?? [];
        $own = Learners::make($name, $settings);
        $additive = Learners::make('boosting', ['leaves' => 2, 'trees' => 80, 'patience' => 0]);
        $told = PairsByChance::of($data, $additive, $own, null, ['x', 'z', 'w'], null, 3);
        self::assertCount(PairsByChance::DRAWS, $told['most']);
        self::assertSame($told, PairsByChance::of($data, $additive, $own, null, ['x', 'z', 'w'], null, 3), 'the same for the same seed');
        $most = max([0.0, ...$told['most']]);
        $size = static fn (string $one, string $other): float => array_column(
            array_filter($told['sizes'], static fn (array $p): bool => [$one, $other] === [$p['one'], $p['other']]),
            'size',
        )[0];
        self::assertCount(3, $told['sizes']);
        // What is measured is H's own size, of the learner fitted on all rows.
        $fit = FoldFit::of($data->prepared($data->known()), $own);
        $rows = $table->take(array_map(static fn (int $k): int => intdiv($k * 500, 40), range(0, 39)));
        $together = new Together(static fn (Table $t): array => $fit->model->predict($t), $rows);
        self::assertEqualsWithDelta($together->pair('x', 'z')['unscaled'], $size('x', 'z'), 1e-12);
        if ($acts) {
            self::assertGreaterThan($most, $size('x', 'z'));
        } else {
            self::assertLessThanOrEqual(1.3 * $most + 1e-9, $size('x', 'z'));
        }
        self::assertLessThanOrEqual(1.3 * $most + 1e-9, $size('x', 'w'));
    }
}
