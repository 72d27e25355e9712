<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Boosting;

use Dokimos\Core\Learn\Tree\Division;
use Dokimos\Core\Learn\Tree\Packing;

/**
 * Grows trees for boosting on histograms of codes: the leaf that gains most is divided next. Ke et al. 2017; second-order gains: Chen
 * and Guestrin 2016, equation 7. A child's histogram is its parent's less its sibling's.
 */
final class HistogramTree
{
    /** Columns that share a number of codes, one byte each. */
    private const PER = 7;
    private const BINS = 256;

    /** @var list<list<int>> codes of seven columns in one number, per row */
    private readonly array $packs;
    private readonly CutSearch $search;
    private readonly RowOrder $order;

    /**
     * @param \Closure(list<int>): list<list<int>> $codes  of some columns, one code per row, less than 256; asked for a few columns at a
     *                                                     time, so that no more lie unpacked in memory
     * @param list<int>                            $sizes  per column, the largest code
     * @param list<bool>                           $levels per column, whether the codes have no order
     */
    public function __construct(
        \Closure $codes,
        private readonly array $sizes,
        array $levels,
        private readonly Packing $packing,
        private readonly TreeLimits $limits,
    ) {
        $this->order = new RowOrder([]);
        $this->search = new CutSearch($sizes, $levels, $packing, $limits);
        $packs = [];
        foreach (array_chunk(array_keys($sizes), self::PER) as $group) {
            $pack = [];
            foreach ($codes($group) as $place => $column) {
                if (0 === $place) {
                    $pack = $column;
                    continue;
                }
                $shift = 8 * $place;
                foreach ($column as $i => $code) {
                    $pack[$i] |= $code << $shift;
                }
            }
            $packs[] = $pack;
        }
        /** @var list<list<int>> $packs */
        $this->packs = $packs;
    }

    /**
     * @param list<int>  $rows   rows that grow the tree
     * @param list<int>  $packed gradient and curvature of every row
     * @param list<bool> $use    per column, whether this tree may ask about it
     *
     * @return list<Sprout> the root first
     */
    public function grow(array $rows, array $packed, float $gradientStep, float $curveStep, array $use): array
    {
        $this->order->begin($rows);
        $total = 0;
        foreach ($rows as $r) {
            $total += $packed[$r];
        }
        $scale = [$gradientStep, $curveStep];
        $sprouts = [new Sprout(0, \count($rows), 0, -\INF, \INF, $total)];
        $sprouts[0]->value = $this->value($total, $scale, -\INF, \INF);
        if ($this->limits->leaves < 2) {
            return $sprouts;
        }
        $sprouts[0]->histograms = $this->histograms($sprouts[0], $packed, $use);
        $this->consider($sprouts[0], $use, $scale);
        for ($leaves = 1; $leaves < $this->limits->leaves; ++$leaves) {
            $next = null;
            foreach ($sprouts as $s) {
                if (null !== $s->best && $s->left < 0 && (null === $next || $s->best->gain > $next->best?->gain)) {
                    $next = $s;
                }
            }
            if (null === $next || null === $next->best) {
                break;
            }
            // The last division makes leaves only: their histograms are of no use.
            $this->divide($next, $sprouts, $packed, $use, $scale, $leaves + 1 < $this->limits->leaves);
        }
        foreach ($sprouts as $s) {
            $s->histograms = [];
        }

        return $sprouts;
    }

    /**
     * @param list<Sprout>        $sprouts
     * @param list<int>           $packed
     * @param list<bool>          $use
     * @param array{float, float} $scale
     */
    private function divide(Sprout $node, array &$sprouts, array $packed, array $use, array $scale, bool $more): void
    {
        $by = $node->best ?? throw new \LogicException('Nothing divides this node.');
        // Leaves of the last level are not told apart: each row is routed once, when its sum is.
        $whole = !$this->limits->parted && $node->depth + 1 >= $this->limits->depth;
        $middle = $whole ? $node->from : $this->order->part(
            $node->depth,
            $node->from,
            $node->end,
            $this->packs[intdiv($by->feature, self::PER)],
            8 * ($by->feature % self::PER),
            $this->goesLeft($by),
        );
        $leftSum = self::leftOf($node->histograms[$by->feature], $by);
        $a = new Sprout($node->from, $middle, $node->depth + 1, $node->low, $node->high, $leftSum);
        $b = new Sprout($middle, $whole ? $middle : $node->end, $node->depth + 1, $node->low, $node->high, $node->total - $leftSum);
        $a->value = $this->value($a->total, $scale, $node->low, $node->high);
        $b->value = $this->value($b->total, $scale, $node->low, $node->high);
        $rising = null === $by->left ? $this->limits->rising[$by->feature] : 0;
        if (0 !== $rising) {
            $between = ($a->value + $b->value) / 2;
            if ($rising > 0) {
                $a->high = $b->low = $between;
            } else {
                $a->low = $b->high = $between;
            }
        }
        $node->left = \count($sprouts);
        $node->right = $node->left + 1;
        $sprouts[] = $a;
        $sprouts[] = $b;
        if ($more && $a->depth < $this->limits->depth) {
            [$less, $greater] = $a->end - $a->from <= $b->end - $b->from ? [$a, $b] : [$b, $a];
            $less->histograms = $this->histograms($less, $packed, $use);
            $greater->histograms = self::rest($node, $less->histograms);
            $this->consider($a, $use, $scale);
            $this->consider($b, $use, $scale);
        }
        $node->histograms = [];
    }

    /** @return list<int> the rows of a leaf that stands by itself */
    public function rows(Sprout $leaf): array
    {
        return \array_slice($this->order->of($leaf->depth), $leaf->from, $leaf->end - $leaf->from);
    }

    /** @param array<int, int> $h */
    private static function leftOf(array $h, Division $by): int
    {
        $sum = $by->missingLeft ? $h[0] : 0;
        if (null !== $by->left) {
            foreach ($by->left as $k) {
                $sum += $h[$k];
            }

            return $sum;
        }
        for ($k = 1, $end = min($by->cut, self::BINS - 1); $k <= $end; ++$k) {
            $sum += $h[$k];
        }

        return $sum;
    }

    /**
     * Adds to each row what its leaf says. Hot loop.
     *
     * @param list<Sprout>      $sprouts as grown
     * @param array<int, float> $sums
     *
     * @return list<float>
     */
    public function added(array $sprouts, array $sums): array
    {
        foreach ($sprouts as $s) {
            $order = $this->order->of($s->depth);
            $end = $s->end;
            if ($s->left < 0) {
                $v = $s->value;
                for ($i = $s->from; $i < $end; ++$i) {
                    $sums[$order[$i]] += $v;
                }
            } elseif (null !== $s->best && !$this->limits->parted && $s->depth + 1 >= $this->limits->depth) {
                $goes = $this->goesLeft($s->best);
                $pack = $this->packs[intdiv($s->best->feature, self::PER)];
                $shift = 8 * ($s->best->feature % self::PER);
                $value = [];
                foreach ($goes as $isLeft) {
                    $value[] = $sprouts[1 === $isLeft ? $s->left : $s->right]->value;
                }
                for ($i = $s->from; $i < $end; ++$i) {
                    $r = $order[$i];
                    $sums[$r] += $value[$pack[$r] >> $shift & 255];
                }
            }
        }

        return array_values($sums);
    }

    /** @return list<int> by code: 1 where it goes left, else 0 */
    private function goesLeft(Division $by): array
    {
        $goes = array_fill(0, self::BINS, 0);
        if (null === $by->left) {
            for ($k = 1, $end = min($by->cut, self::BINS - 1); $k <= $end; ++$k) {
                $goes[$k] = 1;
            }
        } else {
            foreach ($by->left as $k) {
                $goes[$k] = 1;
            }
        }
        $goes[0] = $by->missingLeft ? 1 : 0;

        return array_values($goes);
    }

    /**
     * Seven columns at a time.
     *
     * @param list<int>  $packed
     * @param list<bool> $use
     *
     * @return list<array<int, int>> one histogram per column; empty where no column of the seven is used
     */
    private function histograms(Sprout $node, array $packed, array $use): array
    {
        $out = [];
        $columns = \count($this->sizes);
        $order = $this->order->of($node->depth);
        foreach ($this->packs as $g => $pack) {
            $first = $g * self::PER;
            $most = min(self::PER, $columns - $first);
            $some = \in_array(
                true,
                \array_slice($use, $first, self::PER),
                true,
            ) ? self::seven($order, $node->from, $node->end, $pack, $packed) : [[], [], [], [], [], [], []];
            for ($k = 0; $k < $most; ++$k) {
                $out[] = $some[$k];
            }
        }

        return $out;
    }

    /**
     * Hot loop: one number of codes and one of sums per row.
     *
     * @param list<int> $order
     * @param list<int> $pack
     * @param list<int> $packed
     *
     * @return non-empty-list<array<int, int>> seven
     */
    private static function seven(array $order, int $from, int $end, array $pack, array $packed): array
    {
        $h0 = $h1 = $h2 = $h3 = $h4 = $h5 = $h6 = array_fill(0, self::BINS, 0);
        for ($i = $from; $i < $end; ++$i) {
            $r = $order[$i];
            $v = $pack[$r];
            $w = $packed[$r];
            $h0[$v & 255] += $w;
            $h1[$v >> 8 & 255] += $w;
            $h2[$v >> 16 & 255] += $w;
            $h3[$v >> 24 & 255] += $w;
            $h4[$v >> 32 & 255] += $w;
            $h5[$v >> 40 & 255] += $w;
            $h6[$v >> 48] += $w;
        }

        return [$h0, $h1, $h2, $h3, $h4, $h5, $h6];
    }

    /**
     * What is left of a node without one child. The node's own histograms are used up, which saves copying them.
     *
     * @param list<array<int, int>> $child
     *
     * @return list<array<int, int>>
     */
    private static function rest(Sprout $node, array $child): array
    {
        $parent = $node->histograms;
        $node->histograms = [];
        foreach ($child as $f => $own) {
            $h = $parent[$f];
            $parent[$f] = [];
            foreach ($own as $k => $v) {
                if (0 !== $v) {
                    $h[$k] -= $v;
                }
            }
            $parent[$f] = $h;
        }

        return array_values($parent);
    }

    /** @param array{float, float} $scale */
    private function value(int $total, array $scale, float $low, float $high): float
    {
        $curve = ($total >> $this->packing->countBits & $this->packing->curveMask) * $scale[1];
        $value = ($total >> $this->packing->gradientShift) * $scale[0] / max(1e-12, $curve + $this->limits->ridge);

        return max($low, min($high, $value));
    }

    /**
     * Finds the best division of a node.
     *
     * @param list<bool>          $use
     * @param array{float, float} $scale
     */
    private function consider(Sprout $node, array $use, array $scale): void
    {
        $rows = $node->end - $node->from;
        if ($rows < 2 * $this->limits->rows || $node->depth >= $this->limits->depth) {
            return;
        }
        $best = null;
        foreach ($node->histograms as $f => $h) {
            if ($use[$f]) {
                $best = $this->search->best($f, $h, $node, $scale, $rows, $best->gain ?? 0.0) ?? $best;
            }
        }
        $node->best = $best;
    }
}
