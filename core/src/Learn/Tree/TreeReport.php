<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** A decision tree, node by node, with its pruning paths; named as in the reference. */
final class TreeReport
{
    /**
     * @param ?list<string> $classes
     *
     * @return array<string, mixed> figures by the names of the reference cases
     */
    public static function of(TreeModel $model, ?array $classes, string $criterion): array
    {
        $measure = null === $classes ? Criterion::Variance : ('Gini' === $criterion ? Criterion::Gini : Criterion::Entropy);
        $all = null === $classes ? $model->nodes[0]->counts[0] : array_sum($model->nodes[0]->counts);
        $out = ['nodes' => [], 'leaves' => \count(array_filter($model->nodes, static fn (Node $n) => $n->isLeaf()))];
        foreach ($model->nodes as $id => $node) {
            $out['nodes'][] = self::node($id, $node, $classes);
        }
        $impurity = array_map(static fn (Node $n): float => (null === $classes ? $n->counts[2] : $measure->total($n->counts)) / $all, $model->nodes);
        $out['pruning_path_impurity'] = self::path($model->nodes, $impurity);
        if (null !== $classes) {
            $out['classes'] = $classes;
            $out['pruning_path_misclassification'] = self::path($model->nodes, array_map(static fn (Node $n): float => (array_sum($n->counts) - max([0.0, ...$n->counts])) / $all, $model->nodes));
        }

        return $out;
    }

    /**
     * @param ?list<string> $classes
     *
     * @return array<string, mixed>
     */
    private static function node(int $id, Node $node, ?array $classes): array
    {
        $out = ['id' => $id, 'depth' => $node->depth, 'n' => null === $classes ? $node->counts[0] : array_sum($node->counts), 'impurity' => $node->impurity];
        if (null === $classes) {
            $out += ['mean' => $node->counts[1], 'sum_squares' => $node->counts[2]];
        } else {
            $out += ['counts' => array_combine($classes, $node->counts), 'predicted' => $classes[(int) array_search(max([0.0, ...$node->counts]), $node->counts, true)]];
        }
        if ($node->isLeaf()) {
            return $out;
        }
        $sorted = static function (array $levels): array {
            /** @var list<string> $levels */
            sort($levels, \SORT_STRING);

            return $levels;
        };
        $by = null === $node->leftLevels ? ['threshold' => is_infinite((float) $node->threshold) ? null : $node->threshold] : ['left_levels' => $sorted($node->leftLevels), 'right_levels' => $sorted($node->rightLevels ?? [])];

        return $out + ['column' => $node->column] + $by + ['missing' => $node->missingLeft ? 'left' : 'right', 'improvement' => $node->improvement, 'left' => $node->left, 'right' => $node->right];
    }

    /**
     * @param list<Node>  $nodes
     * @param list<float> $risks
     *
     * @return list<array<string, mixed>>
     */
    private static function path(array $nodes, array $risks): array
    {
        return array_map(static fn (array $step): array => ['alpha' => $step['alpha'], 'leaves' => $step['leaves'], 'risk' => $step['risk'], 'kept_split_nodes' => $step['kept']], Pruning::path($nodes, $risks));
    }
}
