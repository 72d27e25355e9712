<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Learn\Tree\Node;
use Dokimos\Core\Learn\Tree\Part;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Measure\Interval;

/**
 * A tree of two classes read leaf by leaf: its path as a sentence, how many rows and events it holds, and whether it is worth stating.
 * Support, share and interval come from rows that did not grow the tree, where some were kept back; verdicts: decision 6.
 */
final readonly class TreeReading
{
    private const WIDE = 0.2;
    private const FEW = 30;

    public const SOUND = 'Sound';
    public const THIN = 'Thin';
    public const SPLIT = 'Split';

    /**
     * @param list<TreeLeaf>   $leaves   from left to right
     * @param list<TreeBranch> $branches every node but the root, with the answer that leads to it
     * @param bool             $judged   whether rows were kept back; if not, figures are those of training rows
     */
    private function __construct(public array $leaves, public array $branches, public bool $judged, public int $rows, public int $events, public int $trainingRows)
    {
    }

    public static function of(TreeModel $tree, float $cutoff): self
    {
        $judged = [] !== $tree->nodes[0]->judged;
        $counts = static fn (Node $n): array => $judged ? $n->judged : $n->counts;
        $leaves = $branches = [];
        $values = TreeModel::values($tree->nodes, $tree->classes());
        /** @var list<array{int, array<array-key, Part>, ?string}> $waiting */
        $waiting = [[0, [], null]];
        $parents = [0 => -1];
        while ([] !== $waiting) {
            [$i, $path, $answer] = array_pop($waiting);
            $node = $tree->nodes[$i];
            [$others, $events] = $counts($node) + [0.0, 0.0];
            $n = (int) round($others + $events);
            if (null !== $answer) {
                $branches[] = new TreeBranch($i, $parents[$i], $node->depth, $answer, $n, (int) round($events), $node->isLeaf());
            }
            if (null === $node->column) {
                $share = Interval::wilson($events, $others + $events);
                $leaves[] = new TreeLeaf($i, \count($leaves) + 1, Part::path($path), $n, (int) round($events), $share->value, $share->low, $share->high, (int) round($node->counts[0] + $node->counts[1]), $node->counts[1] / max(1.0, $node->counts[0] + $node->counts[1]), $values[$i][1], self::verdict($share, $n, $cutoff));
                continue;
            }
            foreach ([[$node->right, false], [$node->left, true]] as [$child, $isLeft]) {
                $parents[$child] = $i;
                $part = Part::of($node, $isLeft);
                $waiting[] = [$child, Part::narrowed($path, (string) $node->column, $part), $part->sentence((string) $node->column)];
            }
        }
        [$others, $events] = $counts($tree->nodes[0]) + [0.0, 0.0];

        return new self($leaves, $branches, $judged, (int) round($others + $events), (int) round($events), (int) round(array_sum($tree->nodes[0]->counts)));
    }

    /** @return array<int, string> the path to each leaf as a sentence, by its place among the nodes */
    public static function sentences(TreeModel $tree): array
    {
        return array_map(Part::path(...), array_filter($tree->paths(), static fn (int $i): bool => $tree->nodes[$i]->isLeaf(), \ARRAY_FILTER_USE_KEY));
    }

    public static function verdict(Interval $share, int $rows, float $cutoff): string
    {
        return match (true) {
            null === $share->low || null === $share->high || $rows < self::FEW || $share->high - $share->low > self::WIDE => self::THIN,
            $share->low < $cutoff && $share->high > $cutoff => self::SPLIT,
            default => self::SOUND,
        };
    }
}
