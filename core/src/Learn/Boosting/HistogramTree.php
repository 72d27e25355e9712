<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Boosting;

use Dokimos\Core\Learn\Tree\Division;

/**
 * Grows trees for boosting on histograms of codes: the leaf that gains most is divided next. Ke et al. 2017; second-order gains: Chen
 * and Guestrin 2016, equation 7. A child's histogram is its parent's less its sibling's.
 */
final readonly class HistogramTree
{
    /** Columns that share a number of codes, one byte each. */
    private const PER = 5;
    private const BINS = 256;

    /** @var list<list<int>> codes of five columns in one number, per row */
    private array $packs;
    private CutSearch $search;

    /**
     * @param list<list<int>> $codes  per column, one code per row, less than 256
     * @param list<int>       $sizes  per column, the largest code
     * @param list<bool>      $levels per column, whether the codes have no order
     */
    public function __construct(array $codes, private array $sizes, array $levels, private Packing $packing, private TreeLimits $limits)
    {
        $this->search = new CutSearch($sizes, $levels, $packing, $limits);
        $packs = [];
        foreach (array_chunk($codes, self::PER) as $group) {
            $pack = $group[0];
            foreach (\array_slice($group, 1, null, true) as $place => $column) {
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
        $total = 0;
        foreach ($rows as $r) {
            $total += $packed[$r];
        }
        $scale = [$gradientStep, $curveStep];
        $sprouts = [new Sprout($rows, 0, -\INF, \INF, $total)];
        $sprouts[0]->value = $this->value($total, $scale, -\INF, \INF);
        if ($this->limits->leaves < 2) {
            return $sprouts;
        }
        $sprouts[0]->histograms = $this->histograms($rows, $packed, $use);
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
        [$left, $right] = $whole ? [[], []] : $this->parted($node->rows, $by);
        $leftSum = self::leftOf($node->histograms[$by->feature], $by);
        $a = new Sprout($left, $node->depth + 1, $node->low, $node->high, $leftSum);
        $b = new Sprout($right, $node->depth + 1, $node->low, $node->high, $node->total - $leftSum);
        $a->value = $this->value($a->total, $scale, $node->low, $node->high);
        $b->value = $this->value($b->total, $scale, $node->low, $node->high);
        $rising = null === $by->left ? $this->limits->rising[$by->feature] : 0;
        if (0 !== $rising) {
            $middle = ($a->value + $b->value) / 2;
            if ($rising > 0) {
                $a->high = $b->low = $middle;
            } else {
                $a->low = $b->high = $middle;
            }
        }
        $node->left = \count($sprouts);
        $node->right = $node->left + 1;
        $sprouts[] = $a;
        $sprouts[] = $b;
        if ($more && $a->depth < $this->limits->depth) {
            [$less, $greater] = \count($left) <= \count($right) ? [$a, $b] : [$b, $a];
            $less->histograms = $this->histograms($less->rows, $packed, $use);
            $greater->histograms = self::rest($node->histograms, $less->histograms);
            $this->consider($a, $use, $scale);
            $this->consider($b, $use, $scale);
        }
        $node->histograms = [];
        $node->rows = $whole ? $node->rows : [];
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
            if ($s->left < 0) {
                $v = $s->value;
                foreach ($s->rows as $r) {
                    $sums[$r] += $v;
                }
            } elseif ([] !== $s->rows && null !== $s->best) {
                $goes = $this->goesLeft($s->best);
                $pack = $this->packs[intdiv($s->best->feature, self::PER)];
                $shift = 8 * ($s->best->feature % self::PER);
                $value = [];
                foreach ($goes as $k => $isLeft) {
                    $value[] = $sprouts[$isLeft ? $s->left : $s->right]->value;
                }
                foreach ($s->rows as $r) {
                    $sums[$r] += $value[$pack[$r] >> $shift & 255];
                }
            }
        }

        return array_values($sums);
    }

    /** @return list<bool> by code */
    private function goesLeft(Division $by): array
    {
        $goes = array_fill(0, self::BINS, false);
        if (null === $by->left) {
            for ($k = 1, $end = min($by->cut, self::BINS - 1); $k <= $end; ++$k) {
                $goes[$k] = true;
            }
        } else {
            foreach ($by->left as $k) {
                $goes[$k] = true;
            }
        }
        $goes[0] = $by->missingLeft;

        return array_values($goes);
    }

    /**
     * Hot loop: five columns at a time, one number of codes and one of sums per row.
     *
     * @param list<int>  $rows
     * @param list<int>  $packed
     * @param list<bool> $use
     *
     * @return list<array<int, int>> one histogram per column; empty where no column of the five is used
     */
    private function histograms(array $rows, array $packed, array $use): array
    {
        $out = [];
        $zero = array_fill(0, self::BINS, 0);
        $columns = \count($this->sizes);
        foreach ($this->packs as $g => $pack) {
            $first = $g * self::PER;
            if (!\in_array(true, \array_slice($use, $first, self::PER), true)) {
                for ($k = 0; $k < self::PER && $first + $k < $columns; ++$k) {
                    $out[] = [];
                }
                continue;
            }
            $h0 = $h1 = $h2 = $h3 = $h4 = $zero;
            foreach ($rows as $r) {
                $v = $pack[$r];
                $w = $packed[$r];
                $h0[$v & 255] += $w;
                $h1[$v >> 8 & 255] += $w;
                $h2[$v >> 16 & 255] += $w;
                $h3[$v >> 24 & 255] += $w;
                $h4[$v >> 32] += $w;
            }
            foreach ([$h0, $h1, $h2, $h3, $h4] as $k => $h) {
                if ($first + $k < $columns) {
                    $out[] = $h;
                }
            }
        }

        return $out;
    }

    /**
     * @param list<array<int, int>> $parent
     * @param list<array<int, int>> $child
     *
     * @return list<array<int, int>>
     */
    private static function rest(array $parent, array $child): array
    {
        foreach ($child as $f => $own) {
            $h = $parent[$f];
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
        $rows = \count($node->rows);
        if ($rows < 2 * $this->limits->rows || $node->depth >= $this->limits->depth) {
            return;
        }
        $best = null;
        foreach ($node->histograms as $f => $h) {
            if (!$use[$f]) {
                continue;
            }
            $found = $this->search->best($f, $h, $node, $scale, $rows);
            if (null !== $found && (null === $best || $found->gain > $best->gain * (1 + 1e-12))) {
                $best = $found;
            }
        }
        $node->best = $best;
    }

    /**
     * @param list<int> $rows
     *
     * @return array{list<int>, list<int>}
     */
    private function parted(array $rows, Division $by): array
    {
        $pack = $this->packs[intdiv($by->feature, self::PER)];
        $shift = 8 * ($by->feature % self::PER);
        $left = $right = [];
        if (null !== $by->left) {
            $in = $this->goesLeft($by);
            foreach ($rows as $r) {
                if ($in[$pack[$r] >> $shift & 255]) {
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
            $k = $pack[$r] >> $shift & 255;
            if ($k <= $cut && $k >= $least) {
                $left[] = $r;
            } else {
                $right[] = $r;
            }
        }

        return [$left, $right];
    }
}
