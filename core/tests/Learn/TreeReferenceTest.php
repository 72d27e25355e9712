<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Tree\Criterion;
use Dokimos\Core\Learn\Tree\DecisionTree;
use Dokimos\Core\Learn\Tree\Node;
use Dokimos\Core\Learn\Tree\Pruning;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class TreeReferenceTest extends TestCase
{
    /** @return iterable<string, array{string, string}> */
    public static function trees(): iterable
    {
        foreach (['cart', 'cart-categorical'] as $case) {
            foreach (['gini', 'entropy', 'regression'] as $tree) {
                yield $case.', '.$tree => [$case, $tree];
            }
        }
    }

    /** @return array{TreeModel, array{nodes: list<array<string, mixed>>}, bool} */
    private static function grown(string $case, string $name): array
    {
        $table = Files::table(Files::folder($case).'/data.csv');
        /** @var array{columns: list<string>, max_depth: int, min_leaf: int, trees: array<string, array{target: string, nodes: list<array<string, mixed>>}>} $expected */
        $expected = Files::expected($case);
        $wanted = $expected['trees'][$name];
        $number = 'regression' === $name;
        $classes = $number ? null : array_map(strval(...), array_keys((array) ($wanted['nodes'][0]['counts'] ?? [])));
        $outcome = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $text = (string) $table->column($wanted['target'])->text($row);
            $outcome[] = null === $classes ? $table->number($wanted['target'])->values[$row] : (float) array_search($text, $classes, true);
        }
        $learner = new DecisionTree([
            'criterion' => 'entropy' === $name ? 'entropy' : 'Gini',
            'depth' => $expected['max_depth'],
            'leaf' => $expected['min_leaf'],
            'divide' => 2,
            'pruning' => 'not at all',
            'judged' => 0.0,
        ]);

        return [
            $learner->fit(new Task($table, $expected['columns'], $outcome, range(0, $table->rows - 1), null, $classes)),
            $wanted,
            $number,
        ];
    }

    #[DataProvider('trees')]
    public function testEveryNodeIsThatOfTheReference(string $case, string $name): void
    {
        [$model, $wanted, $number] = self::grown($case, $name);
        self::assertCount(\count($wanted['nodes']), $model->nodes);
        foreach ($wanted['nodes'] as $i => $want) {
            $node = $model->nodes[$i];
            $is = static fn (string $key, float $got, float $relative, float $absolute) => self::assertEqualsWithDelta(
                $want[$key],
                $got,
                $absolute + $relative * abs(is_numeric($want[$key]) ? (float) $want[$key] : 0.0),
                "node $i, $key",
            );
            $is('depth', $node->depth, 0, 0);
            $is('impurity', $node->impurity, 0, 1e-9);
            if ($number) {
                $is('n', $node->counts[0], 0, 0);
                $is('mean', $node->counts[1], 1e-9, 0);
                $is('sum_squares', $node->counts[2], 1e-9, 0);
            } else {
                self::assertSame(array_map(floatval(...), array_values((array) $want['counts'])), $node->counts);
            }
            self::assertSame($want['column'] ?? null, $node->column);
            if (isset($want['column'])) {
                $is('improvement', $node->improvement, 0, 1e-9);
                self::assertSame([$want['left'], $want['right']], [$node->left, $node->right]);
            }
            if (isset($want['threshold'])) {
                $is('threshold', (float) $node->threshold, 1e-9, 0);
            }
            if (isset($want['left_levels'])) {
                $sorted = static function (?array $levels): array {
                    $levels ??= [];
                    sort($levels, \SORT_STRING);

                    return $levels;
                };
                self::assertSame([$want['left_levels'], $want['right_levels']], [$sorted($node->leftLevels), $sorted($node->rightLevels)]);
            }
        }
    }

    #[DataProvider('trees')]
    public function testThePruningPathIsThatOfTheReference(string $case, string $name): void
    {
        [$model, $wanted, $number] = self::grown($case, $name);
        $all = $number ? $model->nodes[0]->counts[0] : array_sum($model->nodes[0]->counts);
        $risks = [
            'impurity' => array_map(
                static fn (Node $n): float => ($number ? $n->counts[2] : ('gini' === $name ? Criterion::Gini : Criterion::Entropy)->total($n->counts)) / $all,
                $model->nodes,
            ),
            'misclassification' => array_map(
                static fn (Node $n): float => (array_sum($n->counts) - max([0.0, ...$n->counts])) / $all,
                $model->nodes,
            ),
        ];
        $compared = 0;
        foreach ($risks as $which => $risk) {
            /** @var list<array{alpha: float, leaves: int, risk: float, kept_split_nodes: list<int>}> $path */
            $path = $wanted['pruning_path_'.$which] ?? [];
            foreach ([] === $path ? [] : Pruning::path($model->nodes, $risk) as $step => $got) {
                self::assertEqualsWithDelta($path[$step]['alpha'], $got['alpha'], 1e-9);
                self::assertEqualsWithDelta($path[$step]['risk'], $got['risk'], 1e-9);
                self::assertSame([$path[$step]['leaves'], $path[$step]['kept_split_nodes']], [$got['leaves'], $got['kept']]);
                ++$compared;
            }
        }
        self::assertGreaterThan(2, $compared);
    }

    public function testThePessimisticBoundIsExact(): void
    {
        /** @var list<array{E: int, N: int, CF: float, upper: float}> $values */
        $values = Files::expected('cart-pessimistic-bound')['values'];
        foreach ($values as $v) {
            self::assertEqualsWithDelta(
                $v['upper'],
                Pruning::pessimistic($v['E'], $v['N'], $v['CF']),
                1e-9 * $v['upper'],
                json_encode($v, \JSON_THROW_ON_ERROR),
            );
        }
    }
}
