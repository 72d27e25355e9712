<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Learn\Tree\Node;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Table\DateColumn;

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
        /** @var list<array{int, array<array-key, array<string, mixed>>, ?string}> $waiting */
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
                $leaves[] = new TreeLeaf($i, \count($leaves) + 1, self::sentence($path), $n, (int) round($events), $share->value, $share->low, $share->high, (int) round($node->counts[0] + $node->counts[1]), $node->counts[1] / max(1.0, $node->counts[0] + $node->counts[1]), $values[$i][1], self::verdict($share, $n, $cutoff));
                continue;
            }
            foreach ([[$node->right, false], [$node->left, true]] as [$child, $isLeft]) {
                $parents[$child] = $i;
                $waiting[] = [$child, self::narrowed($path, $node, $isLeft), self::answer($node, $isLeft)];
            }
        }
        [$others, $events] = $counts($tree->nodes[0]) + [0.0, 0.0];

        return new self($leaves, $branches, $judged, (int) round($others + $events), (int) round($events), (int) round(array_sum($tree->nodes[0]->counts)));
    }

    /** @return array<int, string> the path to each leaf as a sentence, by its place among the nodes */
    public static function sentences(TreeModel $tree): array
    {
        $out = [];
        /** @var list<array{int, array<array-key, array<string, mixed>>}> $waiting */
        $waiting = [[0, []]];
        while ([] !== $waiting) {
            [$i, $path] = array_pop($waiting);
            $node = $tree->nodes[$i];
            if ($node->isLeaf()) {
                $out[$i] = self::sentence($path);
                continue;
            }
            $waiting[] = [$node->left, self::narrowed($path, $node, true)];
            $waiting[] = [$node->right, self::narrowed($path, $node, false)];
        }

        return $out;
    }

    private static function verdict(Interval $share, int $rows, float $cutoff): string
    {
        return match (true) {
            null === $share->low || null === $share->high || $rows < self::FEW || $share->high - $share->low > self::WIDE => self::THIN,
            $share->low < $cutoff && $share->high > $cutoff => self::SPLIT,
            default => self::SOUND,
        };
    }

    private static function answer(Node $node, bool $isLeft): string
    {
        return self::condition((string) $node->column, self::part($node, $isLeft));
    }

    /** @return array<string, mixed> what is known of the column on this side */
    private static function part(Node $node, bool $isLeft): array
    {
        // Where nothing was missing, where it would go is no part of the rule.
        $missing = $node->missingSeen && $isLeft === $node->missingLeft;
        if (null !== $node->leftLevels) {
            return ['levels' => $isLeft ? $node->leftLevels : $node->rightLevels ?? [], 'missing' => $missing];
        }

        return [$isLeft ? 'most' : 'over' => (float) $node->threshold, 'missing' => $missing, 'date' => $node->isDate];
    }

    /**
     * Conditions on one column become one.
     *
     * @param array<array-key, array<string, mixed>> $path
     *
     * @return array<array-key, array<string, mixed>>
     */
    private static function narrowed(array $path, Node $node, bool $isLeft): array
    {
        $name = (string) $node->column;
        $new = self::part($node, $isLeft);
        $old = $path[$name] ?? [];
        $both = $new + $old;
        $known = $old['levels'] ?? null;
        if (\is_array($known) && \is_array($new['levels'] ?? null)) {
            $both['levels'] = array_values(array_filter($new['levels'], static fn (mixed $l): bool => \in_array($l, $known, true)));
        }
        $both['missing'] = (true === $new['missing'] || !$node->missingSeen) && true === ($old['missing'] ?? $new['missing']);
        $path[$name] = $both;

        return $path;
    }

    /** @param array<string, mixed> $part */
    private static function condition(string $name, array $part): string
    {
        $missing = true === ($part['missing'] ?? false);
        $isDate = true === ($part['date'] ?? false);
        $number = static fn (mixed $v): string => match (true) {
            !\is_float($v) => '',
            $isDate => gmdate('Y-m-d', (int) floor($v * DateColumn::DAY)),
            default => (string) (float) \sprintf('%.6g', $v),
        };
        $most = $part['most'] ?? null;
        $over = $part['over'] ?? null;
        if (\INF === $over) {
            return $name.' missing';
        }
        if (\is_array($part['levels'] ?? null)) {
            $levels = array_values(array_filter($part['levels'], is_string(...)));
            $shown = \count($levels) > 5 ? implode(', ', \array_slice($levels, 0, 4)).\sprintf(' or %d others', \count($levels) - 4) : implode(' or ', $levels);
            $said = [] === $levels ? $name.' missing' : $name.' '.$shown;

            return $missing && [] !== $levels ? $said.', or missing' : $said;
        }
        $said = match (true) {
            null !== $over && null !== $most && \INF !== $most => \sprintf('%s over %s, up to %s', $name, $number($over), $number($most)),
            null !== $over => \sprintf('%s over %s', $name, $number($over)),
            \INF === $most => $name.' known',
            default => \sprintf('%s up to %s', $name, $number($most)),
        };

        return $missing ? $said.', or missing' : $said;
    }

    /** @param array<array-key, array<string, mixed>> $path */
    private static function sentence(array $path): string
    {
        $parts = [];
        foreach ($path as $name => $part) {
            $parts[] = self::condition((string) $name, $part);
        }

        return [] === $parts ? 'every record' : implode('; ', $parts);
    }
}
