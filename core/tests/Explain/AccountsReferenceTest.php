<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\LeafAccount;
use Dokimos\Core\Explain\Shapley;
use Dokimos\Core\Learn\Tree\OpenTree;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\TestCase;

/**
 * Accounts of single answers, of a function and of trees, against the reference.
 *
 * @phpstan-import-type OpenNode from OpenTree
 */
final class AccountsReferenceTest extends TestCase
{
    private const KINDS = ['area' => Kind::Category, 'plan' => Kind::Category];

    /** @param array<string, mixed> $node */
    private static function tree(array $node): OpenTree
    {
        /** @var list<OpenNode> $nodes */
        $nodes = [];
        $add = static function (array $node) use (&$nodes, &$add): int {
            $place = \count($nodes);
            $nodes[] = [
                'column' => $node['column'] ?? null, 'threshold' => $node['threshold'] ?? null,
                'levels' => isset($node['left_levels']) ? array_fill_keys($node['left_levels'], true) : null,
                'missing' => 'left' === ($node['missing'] ?? 'right'), 'left' => -1, 'right' => -1,
                'value' => (float) ($node['value'] ?? 0.0), 'cover' => (float) $node['cover'],
            ];
            if (isset($node['left'])) {
                $nodes[$place]['left'] = $add($node['left']);
                $nodes[$place]['right'] = $add($node['right']);
            }

            return $place;
        };
        $add($node);

        /** @var list<OpenNode> $nodes */
        return new OpenTree($nodes);
    }

    private static function answer(OpenTree $tree, Table $table, int $row): float
    {
        return $tree->worth($tree->decisions($table, $row), array_fill_keys($table->names(), true));
    }

    /**
     * A background record with the columns of a set from the record.
     *
     * @param list<string> $columns
     */
    private static function mixed(Table $background, Table $data, int $row, array $columns, int $set): Table
    {
        foreach ($columns as $j => $name) {
            if (($set >> $j & 1) === 1) {
                $background = $background->with($name, $data->column($name)->take(array_fill(0, $background->rows, $row)));
            }
        }

        return $background;
    }

    /** @return list<float> f = 0.5 + 2 x1 + x1 x2 - 3 max(x3, 0) + exp(-x4²) x5 + 0.25 x2² */
    private static function known(Table $table): array
    {
        [$a, $b, $c, $d, $e] = array_map(static fn (string $n): array => $table->number($n)->values, ['x1', 'x2', 'x3', 'x4', 'x5']);

        return array_map(
            static fn (int $i): float => 0.5 + 2 * $a[$i] + $a[$i] * $b[$i] - 3 * max($c[$i], 0.0) + exp(-$d[$i] ** 2) * $e[$i] + 0.25 * $b[$i] ** 2,
            array_keys($a),
        );
    }

    public function testAFunctionAndATree(): void
    {
        $want = Files::expected('shapley');
        $folder = Files::folder('shapley');
        [$background, $data] = [Files::table($folder.'/background.csv'), Files::table($folder.'/data.csv')];
        $columns = $want['columns'];
        $mean = static fn (array $v): float => array_sum($v) / \count($v);
        $tree = self::tree(json_decode((string) file_get_contents($folder.'/tree.json'), true));
        $leaves = new LeafAccount([$tree], 0.0, array_flip($columns), $background);
        foreach (range(0, $data->rows - 1) as $row) {
            $own = $want['function_interventional'][$row];
            $got = Shapley::exact(
                5,
                static fn (int $set): float => $mean(self::known(self::mixed($background, $data, $row, $columns, $set))),
            );
            self::assertEqualsWithDelta(array_values($own['phi']), $got, 1e-10);
            $own = $want['tree_interventional'][$row];
            self::assertEqualsWithDelta($own['base'], $leaves->base(), 1e-10);
            self::assertEqualsWithDelta(array_values($own['phi']), $leaves->of($data, $row, 5), 1e-10);
            $own = $want['tree_path_dependent'][$row];
            $decisions = $tree->decisions($data, $row);
            $worth = static fn (int $set): float => $tree->worth(
                $decisions,
                array_combine($columns, array_map(static fn (int $j): bool => ($set >> $j & 1) === 1, range(0, 4))),
            );
            self::assertEqualsWithDelta([$own['base'], $own['prediction']], [$worth(0), $worth(31)], 1e-10);
            self::assertEqualsWithDelta(array_values($own['phi']), Shapley::exact(5, $worth), 1e-10);
        }
    }

    public function testAnEnsemble(): void
    {
        $want = Files::expected('shapley-ensemble');
        $folder = Files::folder('shapley-ensemble');
        [$background, $data] = [Files::table($folder.'/background.csv', self::KINDS), Files::table($folder.'/data.csv', self::KINDS)];
        $model = json_decode((string) file_get_contents($folder.'/trees.json'), true);
        $trees = array_values(array_map(self::tree(...), $model['trees']));
        $columns = $want['columns'];
        $leaves = new LeafAccount($trees, $model['base'], array_flip($columns), $background);
        $names = array_keys($want['groups']);
        $of = [];
        foreach ($names as $g => $name) {
            foreach ($want['groups'][$name] as $column) {
                $of[$column] = $g;
            }
        }
        $grouped = new LeafAccount($trees, $model['base'], $of, $background);
        $f = static fn (Table $t, int $r): float => $model['base'] + array_sum(array_map(
            static fn (OpenTree $tree): float => self::answer($tree, $t, $r),
            $trees,
        ));
        $chance = static function (int $row, int $set) use ($background, $data, $columns, $f): float {
            $own = self::mixed($background, $data, $row, $columns, $set);

            return array_sum(array_map(static fn (int $b): float => 1 / (1 + exp(-$f($own, $b))), range(0, $own->rows - 1))) / $own->rows;
        };
        foreach (range(0, $data->rows - 1) as $row) {
            $own = $want['interventional'][$row];
            $phi = $leaves->of($data, $row, 6);
            self::assertEqualsWithDelta([$own['base'], $own['prediction']], [$leaves->base(), $f($data, $row)], 1e-10);
            self::assertEqualsWithDelta(array_values($own['phi']), $phi, 1e-10);
            self::assertEqualsWithDelta($own['prediction'] - $own['base'], array_sum($phi), 1e-9, 'adds up');
            $path = self::worths($trees, $model['base'], $data, $row, $columns);
            $own = $want['path_dependent'][$row];
            self::assertEqualsWithDelta($own['base'], $path(0), 1e-10);
            self::assertEqualsWithDelta(array_values($own['phi']), Shapley::exact(6, $path), 1e-10);
            $own = $want['chance_interventional'][$row];
            self::assertEqualsWithDelta(
                array_values($own['phi']),
                Shapley::exact(6, static fn (int $set): float => $chance($row, $set)),
                1e-10,
            );
            $own = $want['grouped'][$row];
            self::assertEqualsWithDelta(array_values($own['interventional']['as_players']), $grouped->of($data, $row, 3), 1e-10);
            $sums = array_fill_keys($names, 0.0);
            foreach ($columns as $j => $column) {
                $sums[$names[$of[$column]]] += $phi[$j];
            }
            self::assertEqualsWithDelta($own['interventional']['sum_of_columns'], $sums, 1e-10);
            $members = array_map(
                static fn (int|string $n): int => array_sum(array_map(
                    static fn (string $c): int => 1 << (int) array_search($c, $columns, true),
                    $want['groups'][$n],
                )),
                $names,
            );
            $all = static fn (int $set): int => array_sum(array_map(
                static fn (int $g): int => ($set >> $g & 1) === 1 ? $members[$g] : 0,
                range(0, 2),
            ));
            self::assertEqualsWithDelta(
                array_values($own['path_dependent']['as_players']),
                Shapley::exact(3, static fn (int $s): float => $path($all($s))),
                1e-10,
            );
            self::assertEqualsWithDelta(
                array_values($own['chance']['as_players']),
                Shapley::exact(3, static fn (int $s): float => $chance($row, $all($s))),
                1e-10,
            );
        }
        $row = $want['interactions']['row'] - 1;
        $mean = static function (int $set) use ($background, $data, $columns, $f, $row): float {
            $own = self::mixed($background, $data, $row, $columns, $set);

            return array_sum(array_map(static fn (int $b): float => $f($own, $b), range(0, $own->rows - 1))) / $own->rows;
        };
        self::assertEqualsWithDelta($want['interactions']['interventional'], Shapley::interactions(6, $mean), 1e-10);
        self::assertEqualsWithDelta(
            $want['interactions']['path_dependent'],
            Shapley::interactions(6, self::worths($trees, $model['base'], $data, $row, $columns)),
            1e-10,
        );
    }

    /**
     * @param list<OpenTree> $trees
     * @param list<string>   $columns
     *
     * @return \Closure(int): float
     */
    private static function worths(array $trees, float $base, Table $data, int $row, array $columns): \Closure
    {
        $decisions = array_map(static fn (OpenTree $t): array => $t->decisions($data, $row), $trees);

        return static function (int $set) use ($trees, $base, $decisions, $columns): float {
            $known = array_combine($columns, array_map(static fn (int $j): bool => ($set >> $j & 1) === 1, array_keys($columns)));

            return $base + array_sum(array_map(static fn (OpenTree $t, array $d): float => $t->worth($d, $known), $trees, $decisions));
        };
    }

    public function testSharesAreFairAndTooManyPlayersAreRefused(): void
    {
        // The third player adds nothing, the first two are alike.
        $worth = static fn (int $set): float => 3 === ($set & 3) ? 10.0 : (0 === ($set & 3) ? 0.0 : 4.0);
        self::assertEqualsWithDelta([5.0, 5.0, 0.0], Shapley::exact(3, $worth), 1e-12);
        self::assertSame([], Shapley::exact(0, static fn (): float => 1.0));
        $this->expectExceptionMessage('At most 16 players');
        Shapley::exact(17, static fn (): float => 0.0);
    }
}
