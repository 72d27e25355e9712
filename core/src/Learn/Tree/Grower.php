<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

use Dokimos\Core\Progress;
use Random\Randomizer;

/**
 * Grows one tree by dividing each node in the best way, on columns of codes (Design\Codes). Exact for the codes it is given: when every
 * distinct value has a code of its own, all thresholds between values of the node are compared.
 */
final readonly class Grower
{
    private function __construct(private Cells $cells, private Criterion $criterion, private Limits $limits, private int $tried, private ?Randomizer $random, private Search|PackedSearch $search)
    {
    }

    /**
     * @param int  $tried columns tried at each node, drawn anew; 0 = all
     * @param bool $drawn one cut per column is drawn instead of comparing all
     * @param bool $fine  numbers are told apart by fine steps only, which is quicker
     */
    public static function of(Cells $cells, Criterion $criterion, Limits $limits, int $tried = 0, ?Randomizer $random = null, bool $drawn = false, bool $fine = false): self
    {
        $drawing = $drawn && null !== $random ? new Drawing($random) : null;
        $two = Criterion::Gini === $criterion && 2 === $cells->classes;
        $search = match (true) {
            $cells->isWhole() && null === $drawing && ($two || ($fine && Criterion::Variance === $criterion)) => PackedSearch::of($cells, $criterion, $limits),
            $two, Criterion::Variance === $criterion => new MomentSearch($cells, $criterion, $limits, $drawing),
            default => new CountSearch($cells, $criterion, $limits, $drawing),
        };

        return new self($cells, $criterion, $limits, $tried, $random, $search);
    }

    /** The same on the same rows, drawn anew. */
    public function on(Cells $drawn): self
    {
        return new self($drawn, $this->criterion, $this->limits, $this->tried, $this->random, $this->search->on($drawn));
    }

    /** @param list<int> $rows ascending */
    public function grow(array $rows, ?Progress $progress = null): Grown
    {
        if ($this->search instanceof PackedSearch) {
            return (new PackedGrower($this->search, $this->criterion, $this->limits, $this->tried, $this->random))->grow($rows, $progress);
        }
        $grown = new Grown();
        $waiting = [[$rows, 0, -1, false]];
        $all = max(1, \count($rows));
        $settled = 0;
        // Depth first, left before right: nodes come out in pre-order.
        while ([] !== $waiting) {
            [$own, $depth, $parent, $isRight] = array_pop($waiting);
            $counts = $this->counts($own);
            $node = $grown->add($counts, $depth);
            if ($parent >= 0) {
                if ($isRight) {
                    $grown->right[$parent] = $node;
                } else {
                    $grown->left[$parent] = $node;
                }
            }
            $best = $this->division($this->search, $own, $counts, $depth);
            if (null === $best) {
                $progress?->report(0.9 * ($settled += \count($own)) / $all);
                continue;
            }
            $grown->divisions[$node] = $by = $best->division($this->cells);
            [$left, $right] = $this->parted($own, $by);
            unset($own);
            $waiting[] = [$right, $depth + 1, $node, true];
            $waiting[] = [$left, $depth + 1, $node, false];
        }

        return $grown;
    }

    /**
     * A single leaf.
     *
     * @param list<int> $rows
     */
    public function stump(array $rows): Grown
    {
        $grown = new Grown();
        $grown->add($this->counts($rows), 0);

        return $grown;
    }

    /**
     * @param list<int> $rows
     *
     * @return list<float>
     */
    private function counts(array $rows): array
    {
        $y = $this->cells->y;
        $weights = $this->cells->weights;
        if (2 === $this->cells->classes && null === $weights) {
            $events = 0;
            foreach ($rows as $r) {
                $events += $y[$r];
            }

            return [(float) (\count($rows) - $events), (float) $events];
        }
        if (2 === $this->cells->classes) {
            $all = $events = 0.0;
            foreach ($rows as $r) {
                $all += $weights[$r];
                $events += $weights[$r] * $y[$r];
            }

            return [$all - $events, $events];
        }
        if ($this->cells->classes > 0) {
            $counts = array_fill(0, $this->cells->classes, 0.0);
            foreach ($rows as $r) {
                $counts[(int) $y[$r]] += null === $weights ? 1.0 : $weights[$r];
            }

            return array_values($counts);
        }

        return $this->cells->moments($rows, 0, \count($rows));
    }

    /**
     * @param list<int>   $rows
     * @param list<float> $counts
     */
    private function division(Search $search, array $rows, array $counts, int $depth): ?Found
    {
        $weight = $this->criterion->weight($counts);
        $total = $this->criterion->total($counts);
        if ($depth >= $this->limits->depth || $weight < $this->limits->divide || $weight < 2 * $this->limits->leaf || $total <= 1e-12 * $weight) {
            return null;
        }
        $features = array_keys($this->cells->codes);
        $most = \count($features);
        if ($this->tried > 0 && null !== $this->random) {
            /** @var list<int> $features */
            $features = $this->random->shuffleArray($features);
            $most = min($most, $this->tried);
        }
        $best = $search->among(\array_slice($features, 0, $most), $rows, $counts);
        // A node that none of the drawn columns can divide goes on drawing.
        for ($i = $most, $all = \count($features); null === $best && $i < $all; ++$i) {
            $best = $search->among([$features[$i]], $rows, $counts);
        }

        // What is left of a difference of large sums is no gain.
        return null !== $best && $best->gain > 1e-10 * $total && $best->gain >= $this->limits->gain * $weight ? $best : null;
    }

    /**
     * @param list<int> $rows
     *
     * @return array{list<int>, list<int>}
     */
    private function parted(array $rows, Division $by): array
    {
        $c = $this->cells->codes[$by->feature];
        $left = $right = [];
        if (null !== $by->left) {
            $in = array_fill(0, $this->cells->sizes[$by->feature] + 1, false);
            foreach ($by->left as $k) {
                $in[$k] = true;
            }
            $in[0] = $by->missingLeft;
            foreach ($rows as $r) {
                if ($in[$c[$r]]) {
                    $left[] = $r;
                } else {
                    $right[] = $r;
                }
            }

            return [$left, $right];
        }
        $cut = $by->cut;
        $least = $by->missingLeft ? 0 : 1;
        foreach ($rows as $r) {
            $k = $c[$r];
            if ($k <= $cut && $k >= $least) {
                $left[] = $r;
            } else {
                $right[] = $r;
            }
        }

        return [$left, $right];
    }
}
