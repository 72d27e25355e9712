<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

use Dokimos\Core\Math\Distribution\Binomial;

/** Which divisions of a grown tree are worth keeping. Formulas: docs/methods/tree.md. */
final class Pruning
{
    /** Answers kept, at most. */
    private const KEPT = 100_000;

    /**
     * The weakest-link path (Breiman et al. 1984, chapter 3): from which complexity cost on which subtree is optimal.
     *
     * @param list<Node>  $nodes in pre-order
     * @param list<float> $risks of each node as a leaf
     *
     * @return list<array{alpha: float, leaves: int, risk: float, kept: list<int>}> kept: nodes that still divide
     */
    public static function path(array $nodes, array $risks): array
    {
        $divides = [];
        foreach ($nodes as $i => $node) {
            if (!$node->isLeaf()) {
                $divides[$i] = true;
            }
        }
        $alpha = 0.0;
        $path = [];
        while (true) {
            // Children stand after their parents: from the last node back, both are known.
            $leaves = $below = $weakest = [];
            for ($i = \count($nodes) - 1; $i >= 0; --$i) {
                if (!isset($divides[$i])) {
                    [$leaves[$i], $below[$i]] = [1, $risks[$i]];
                    continue;
                }
                [$l, $r] = [$nodes[$i]->left, $nodes[$i]->right];
                $leaves[$i] = $leaves[$l] + $leaves[$r];
                $below[$i] = $below[$l] + $below[$r];
                $weakest[$i] = ($risks[$i] - $below[$i]) / ($leaves[$i] - 1);
            }
            $live = self::live($nodes, $divides);
            $collapsed = false;
            foreach ($live as $i) {
                if ($weakest[$i] <= $alpha + 1e-12) {
                    unset($divides[$i]);
                    $collapsed = true;
                }
            }
            if ($collapsed) {
                continue;
            }
            $path[] = ['alpha' => $alpha, 'leaves' => $leaves[0], 'risk' => $below[0], 'kept' => $live];
            if ([] === $live) {
                return $path;
            }
            $alpha = min(array_map(static fn (int $i) => $weakest[$i], $live));
        }
    }

    /**
     * Nodes that still divide, without those under a leaf.
     *
     * @param list<Node>       $nodes
     * @param array<int, true> $divides
     *
     * @return list<int> ascending
     */
    private static function live(array $nodes, array $divides): array
    {
        $live = [];
        $waiting = [0];
        while ([] !== $waiting) {
            $i = array_pop($waiting);
            if (isset($divides[$i])) {
                $live[] = $i;
                $waiting[] = $nodes[$i]->right;
                $waiting[] = $nodes[$i]->left;
            }
        }
        sort($live);

        return $live;
    }

    /**
     * The tree in which only these nodes divide.
     *
     * @param list<Node> $nodes
     * @param list<int>  $kept
     *
     * @return list<Node> in pre-order
     */
    public static function cut(array $nodes, array $kept): array
    {
        $divides = array_flip($kept);
        $out = [];
        $place = static function (int $i) use (&$place, &$out, $nodes, $divides): int {
            $at = \count($out);
            $out[] = $nodes[$i];
            if (isset($divides[$i])) {
                $left = $place($nodes[$i]->left);
                $right = $place($nodes[$i]->right);
                $out[$at] = $nodes[$i]->placed($left, $right);
            } else {
                $out[$at] = $nodes[$i]->asLeaf();
            }

            return $at;
        };
        $place(0);

        /** @var list<Node> $out */
        return $out;
    }

    /**
     * Exact upper limit of the error rate of a leaf: the p at which as few errors have the chance $confidence.
     *
     * @param float $errors whole numbers are exact; others are interpolated
     */
    public static function pessimistic(float $errors, float $rows, float $confidence): float
    {
        if ($errors >= $rows) {
            return 1.0;
        }
        if (floor($errors) !== $errors || floor($rows) !== $rows) {
            $least = self::pessimistic(floor($errors), ceil($rows), $confidence);

            return $least + ($errors - floor($errors)) * (self::pessimistic(min(ceil($rows), floor($errors) + 1), ceil($rows), $confidence) - $least);
        }

        return 0.0 === $errors ? -expm1(log($confidence) / $rows) : self::upperLimit((int) $errors, (int) $rows, $confidence);
    }

    /**
     * Newton's steps in p within bounds that close in: the chance of at most so many errors falls as p grows, by the chance of exactly
     * so many among one row less. The same leaf is asked about again and again while rules are shortened, so answers are kept.
     */
    private static function upperLimit(int $errors, int $rows, float $confidence): float
    {
        /** @var array<string, float> $known */
        static $known = [];
        $key = $errors.'/'.$rows.'/'.$confidence;
        if (isset($known[$key])) {
            return $known[$key];
        }
        if (\count($known) >= self::KEPT) {
            $known = [];
        }
        $low = $errors / $rows;
        $high = 1.0;
        $p = min(0.5 + $low / 2, $low + sqrt(($low * (1.0 - $low) + 1.0 / $rows) / $rows));
        for ($i = 0; $i < 200 && $high - $low > 1e-16 * $high; ++$i) {
            $over = (new Binomial($rows, $p))->cdf($errors) - $confidence;
            if ($over > 0.0) {
                $low = $p;
            } else {
                $high = $p;
            }
            $fall = $rows * (new Binomial($rows - 1, $p))->pmf($errors);
            $next = $fall > 0.0 ? $p + $over / $fall : $low;
            if (abs($next - $p) <= 1e-15 * $p) {
                break;
            }
            $p = $next > $low && $next < $high ? $next : ($low + $high) / 2;
        }

        return $known[$key] = $p;
    }

    /**
     * A subtree becomes a leaf when the errors predicted for the leaf are not above those of its leaves together.
     *
     * @param list<Node>  $nodes
     * @param list<float> $errors  weight of each node's rows that are not of its most frequent class
     * @param list<float> $weights
     *
     * @return list<int> nodes that still divide
     */
    public static function byPessimism(array $nodes, array $errors, array $weights, float $confidence): array
    {
        $divides = $predicted = [];
        for ($i = \count($nodes) - 1; $i >= 0; --$i) {
            $own = $weights[$i] * self::pessimistic($errors[$i], $weights[$i], $confidence);
            $node = $nodes[$i];
            $predicted[$i] = $own;
            if (!$node->isLeaf()) {
                $below = $predicted[$node->left] + $predicted[$node->right];
                if ($own > $below + 1e-9) {
                    $predicted[$i] = $below;
                    $divides[$i] = true;
                }
            }
        }

        return self::live($nodes, $divides);
    }
}
