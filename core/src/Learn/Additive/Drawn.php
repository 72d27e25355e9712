<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

use Dokimos\Core\Design\Codes;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\TreeNode;
use Dokimos\Core\Expression\Trees;

/** Curves and pairs as trees: a curve is one of a single column, halved until each code stands alone. */
final readonly class Drawn
{
    /**
     * @param list<Curve> $curves
     * @param list<Pair>  $pairs
     */
    public function __construct(private Codes $codes, private array $curves, private array $pairs)
    {
    }

    public function trees(int $class, float $start, Frame $frame): Trees
    {
        $trees = $columns = [];
        foreach ($this->curves as $curve) {
            $trees[] = $this->tree($curve->column, static fn (int $code): float => $curve->adds[$class][$code]);
            $columns[$this->codes->columns[$curve->column]] = true;
        }
        foreach ($this->pairs as $pair) {
            $width = $pair->secondGrid->size;
            $trees[] = $this->tree($pair->first, fn (int $code): array => $this->tree(
                $pair->second,
                static fn (int $other): float => $pair->adds[$class][
                    $pair->firstGrid->groups[$code] * $width + $pair->secondGrid->groups[$other]
                ],
            ));
            $columns[$this->codes->columns[$pair->first]] = $columns[$this->codes->columns[$pair->second]] = true;
        }
        $named = [];
        foreach (array_keys($columns) as $name) {
            $named[$name] = $frame->column((string) $name);
        }

        return new Trees($trees, $start, $named);
    }

    /**
     * @param \Closure(int): (float|list<TreeNode>) $at what stands at a code: a number, or a tree of another column
     *
     * @return list<TreeNode>
     */
    private function tree(int $feature, \Closure $at): array
    {
        $nodes = [];
        $name = $this->codes->columns[$feature];
        $this->codes->isLevels($feature) ? $this->levels($name, $feature, $at, $nodes) : $this->cuts($name, $feature, $at, $nodes);

        return $nodes;
    }

    /**
     * @param \Closure(int): (float|list<TreeNode>) $at
     * @param list<TreeNode>                        $nodes
     */
    private function levels(string $name, int $feature, \Closure $at, array &$nodes): void
    {
        // One level after the other; what is missing, or was never seen, has code 0 unless others share a code.
        $levels = $this->codes->scales[$feature]['levels'] ?? [];
        $hasOthers = true === ($this->codes->scales[$feature]['other'] ?? false);
        $this->asks($nodes, static fn (int $l, int $r): TreeNode => TreeNode::texts(
            $name,
            [],
            !$hasOthers && [] === $levels,
            true,
            $l,
            $r,
        ), $at(0), function (array &$nodes) use ($name, $levels, $hasOthers, $at): void {
            $this->each($name, $levels, 0, $hasOthers ? \count($levels) + 1 : 0, $at, $nodes);
        });
    }

    /**
     * @param list<string>                          $levels
     * @param \Closure(int): (float|list<TreeNode>) $at
     * @param list<TreeNode>                        $nodes
     */
    private function each(string $name, array $levels, int $from, int $else, \Closure $at, array &$nodes): void
    {
        if ($from >= \count($levels)) {
            $this->put($at($else), $nodes);

            return;
        }
        $this->asks($nodes, static fn (int $l, int $r): TreeNode => TreeNode::texts(
            $name,
            [$levels[$from] => true],
            false,
            false,
            $l,
            $r,
        ), $at($from + 1), function (array &$nodes) use ($name, $levels, $from, $else, $at): void {
            $this->each($name, $levels, $from + 1, $else, $at, $nodes);
        });
    }

    /**
     * @param \Closure(int): (float|list<TreeNode>) $at
     * @param list<TreeNode>                        $nodes
     */
    private function cuts(string $name, int $feature, \Closure $at, array &$nodes): void
    {
        $cuts = $this->codes->scales[$feature]['cuts'] ?? [];
        $isMissing = static fn (int $l, int $r): TreeNode => TreeNode::number($name, -\INF, true, $l, $r);
        $this->asks($nodes, $isMissing, $at(0), function (array &$nodes) use ($name, $cuts, $at): void {
            $this->halved($name, $cuts, 0, \count($cuts), $at, $nodes);
        });
    }

    /**
     * @param list<float>                           $cuts
     * @param \Closure(int): (float|list<TreeNode>) $at
     * @param list<TreeNode>                        $nodes
     */
    private function halved(string $name, array $cuts, int $from, int $to, \Closure $at, array &$nodes): void
    {
        if ($from >= $to) {
            $this->put($at($from + 1), $nodes);

            return;
        }
        // Stretches that add the same are not told apart.
        $first = $at($from + 1);
        $same = true;
        for ($k = $from + 1; $same && $k <= $to; ++$k) {
            // Of a pair, whole trees are compared: codes of one group have the same.
            $same = $at($k + 1) == $first;
        }
        if ($same) {
            $this->put($first, $nodes);

            return;
        }
        $middle = ($from + $to) >> 1;
        $this->asks($nodes, static fn (int $l, int $r): TreeNode => TreeNode::number(
            $name,
            $cuts[$middle],
            false,
            $l,
            $r,
        ), function (array &$nodes) use ($name, $cuts, $from, $middle, $at): void {
            $this->halved($name, $cuts, $from, $middle, $at, $nodes);
        }, function (array &$nodes) use ($name, $cuts, $middle, $to, $at): void {
            $this->halved($name, $cuts, $middle + 1, $to, $at, $nodes);
        });
    }

    /**
     * @param list<TreeNode>                                      $nodes
     * @param \Closure(int, int): TreeNode                        $node  with the places of both sides
     * @param float|list<TreeNode>|\Closure(list<TreeNode>): void $left
     * @param \Closure(list<TreeNode>): void                      $right
     */
    private function asks(array &$nodes, \Closure $node, float|array|\Closure $left, \Closure $right): void
    {
        $place = \count($nodes);
        $nodes[] = TreeNode::leaf(0.0);
        $l = \count($nodes);
        $left instanceof \Closure ? $left($nodes) : $this->put($left, $nodes);
        $r = \count($nodes);
        $right($nodes);
        array_splice($nodes, $place, 1, [$node($l, $r)]);
    }

    /**
     * @param float|list<TreeNode> $what
     * @param list<TreeNode>       $nodes
     */
    private function put(float|array $what, array &$nodes): void
    {
        if (\is_float($what)) {
            $nodes[] = TreeNode::leaf($what);

            return;
        }
        $base = \count($nodes);
        foreach ($what as $node) {
            $nodes[] = $node->moved($base);
        }
    }
}
