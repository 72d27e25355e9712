<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Learn\Tree\Part;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\Verdict;

/**
 * A tree read leaf by leaf: its path as a sentence, how many rows end there and what they were, and whether it is worth stating. Of two
 * classes that is the share of the second, of several the share of the class that the leaf names, of a number the mean. Support, value
 * and interval come from rows that did not grow the tree, where some were kept back; verdicts: decision 6, docs/methods/tree.md.
 */
final readonly class TreeReading
{
    /** An interval of a mean is wide from so many standard deviations of all rows on. */
    private const WIDE_MEAN = 0.5;

    /**
     * @param list<TreeLeaf>   $leaves   from left to right
     * @param list<TreeBranch> $branches every node but the root, with the answer that leads to it
     * @param bool             $judged   whether rows were kept back; if not, figures are those of training rows
     * @param int              $events   rows of the second of two classes; else 0
     * @param ?float           $average  mean of a number over all rows, share of the second of two classes
     */
    private function __construct(public array $leaves, public array $branches, public bool $judged, public int $rows, public int $events, public int $trainingRows, public ?float $average)
    {
    }

    /** @param ?float $cutoff that leaves of two classes are held against; null = the average, as for all others */
    public static function of(TreeModel $tree, ?float $cutoff = null): self
    {
        $root = $tree->nodes[0];
        $judged = [] !== $root->judged;
        $leaves = $branches = [];
        /** @var list<array{int, array<array-key, Part>, ?string}> $waiting */
        $waiting = [[0, [], null]];
        $parents = [0 => -1];
        $values = TreeModel::values($tree->nodes, [] === $tree->classes() ? null : $tree->classes());
        while ([] !== $waiting) {
            [$i, $path, $answer] = array_pop($waiting);
            $node = $tree->nodes[$i];
            $own = LeafFigures::of($tree, $node, $judged);
            if (null !== $answer) {
                $branches[] = new TreeBranch($i, $parents[$i], $node->depth, $answer, $own->rows, $own->events, $own->interval->value, $node->isLeaf());
            }
            if (null === $node->column) {
                $grown = LeafFigures::of($tree, $node, false);
                $leaves[] = new TreeLeaf($i, \count($leaves) + 1, Part::path($path), $own->named, $own->rows, $own->events, $own->interval->value, $own->interval->low, $own->interval->high, $grown->rows, $grown->interval->value, $values[$i][$own->place], self::judge($tree, $own, $judged, $cutoff));
                continue;
            }
            foreach ([[$node->right, false], [$node->left, true]] as [$child, $isLeft]) {
                $parents[$child] = $i;
                $part = Part::of($node, $isLeft);
                $waiting[] = [$child, Part::narrowed($path, (string) $node->column, $part), $part->sentence((string) $node->column)];
            }
        }
        $all = LeafFigures::of($tree, $root, $judged);

        return new self($leaves, $branches, $judged, $all->rows, $all->events, LeafFigures::of($tree, $root, false)->rows, \count($tree->classes()) > 2 ? null : $all->interval->value);
    }

    private static function judge(TreeModel $tree, LeafFigures $own, bool $judged, ?float $cutoff): string
    {
        $counts = $judged ? $tree->nodes[0]->judged : $tree->nodes[0]->counts;
        if ([] !== $tree->classes()) {
            return Verdict::of($own->interval, $own->rows, $cutoff ?? $counts[$own->place] / max(1.0, array_sum($counts)));
        }
        $wide = self::WIDE_MEAN * sqrt($counts[2] / max(1.0, $counts[0] - 1));

        return Verdict::of($own->interval, $own->rows, $cutoff ?? $counts[1], $wide);
    }
}
