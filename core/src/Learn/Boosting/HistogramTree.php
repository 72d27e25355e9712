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
    /** What levels of a category are smoothed by before they are sorted. */
    private const LEVEL_RIDGE = 10.0;

    /** @var list<list<int>> codes of five columns in one number, per row */
    private array $packs;

    /**
     * @param list<list<int>> $codes  per column, one code per row, less than 256
     * @param list<int>       $sizes  per column, the largest code
     * @param list<bool>      $levels per column, whether the codes have no order
     */
    public function __construct(array $codes, private array $sizes, private array $levels, private Packing $packing, private TreeLimits $limits)
    {
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
            $plain = 0 === $h[0] && 0 === $this->limits->rising[$f] && -\INF === $node->low && \INF === $node->high;
            $found = match (true) {
                $this->levels[$f] => $this->bestSet($f, $h, $node, $scale, $rows),
                $plain => $this->plainCut($f, $h, $node, $scale, $rows),
                default => $this->bestCut($f, $h, $node, $scale, $rows),
            };
            if (null !== $found && (null === $best || $found->gain > $best->gain * (1 + 1e-12))) {
                $best = $found;
            }
        }
        $node->best = $best;
    }

    /**
     * Hot loop: nothing is missing and nothing bounds what leaves may say. Both sides' scores over one denominator cost one division.
     *
     * @param array<int, int>     $h
     * @param array{float, float} $scale
     */
    private function plainCut(int $f, array $h, Sprout $node, array $scale, int $rows): ?Division
    {
        [$g1, $h1] = $scale;
        $countBits = $this->packing->countBits;
        $countMask = $this->packing->countMask;
        $curveMask = $this->packing->curveMask;
        $shift = $this->packing->gradientShift;
        $ridge = $this->limits->ridge;
        $total = $node->total;
        $gradient = ($total >> $shift) * $g1;
        $steps = $total >> $countBits & $curveMask;
        $curve = $steps * $h1;
        // Without counts in the numbers, rows are told by their curvature.
        $counted = $countBits > 0;
        $most = $counted ? $rows : $steps;
        $least = $counted ? $this->limits->rows : $this->limits->rows * $steps / $rows;
        $least = max(1, (int) ceil($least - 1e-9));
        $most -= $least;
        $both = $curve + 2 * $ridge;
        $parent = $gradient * $gradient / ($curve + $ridge);
        $best = $parent + 1e-9 * abs($parent) + 1e-12;
        $cut = $under = 0;
        $acc = 0;
        for ($k = 1, $last = $this->sizes[$f]; $k <= $last; ++$k) {
            $own = $h[$k];
            if (0 === $own) {
                continue;
            }
            $acc += $own;
            $stepsLeft = $acc >> $countBits & $curveMask;
            $size = $counted ? $acc & $countMask : $stepsLeft;
            if ($size < $least) {
                continue;
            }
            if ($size > $most) {
                break;
            }
            $a = $stepsLeft * $h1 + $ridge;
            $b = $both - $a;
            $left = ($acc >> $shift) * $g1;
            $right = $gradient - $left;
            $score = ($left * $left * $b + $right * $right * $a) / ($a * $b);
            if ($score > $best) {
                $best = $score;
                $cut = $k;
                $under = $size;
            }
        }

        return 0 === $cut ? null : new Division($f, $best - $parent, $cut, $cut + 1, null, 2 * $under > $most + $least);
    }

    /**
     * The same where values are missing, or leaves may only rise or fall with the column.
     *
     * @param array<int, int>     $h
     * @param array{float, float} $scale
     */
    private function bestCut(int $f, array $h, Sprout $node, array $scale, int $rows): ?Division
    {
        [$g1, $h1] = $scale;
        $countBits = $this->packing->countBits;
        $countMask = $this->packing->countMask;
        $curveMask = $this->packing->curveMask;
        $shift = $this->packing->gradientShift;
        $ridge = $this->limits->ridge;
        $least = $this->limits->rows;
        $rising = $this->limits->rising[$f];
        $bounded = 0 !== $rising || $node->low > -\INF || $node->high < \INF;
        $total = $node->total;
        $gradient = ($total >> $shift) * $g1;
        $curve = ($total >> $countBits & $curveMask) * $h1;
        // Without counts in the numbers, rows are told by their curvature.
        $perCurve = $countBits > 0 ? 0.0 : $rows / max(1e-12, $curve);
        $parent = $gradient * $gradient / ($curve + $ridge);
        $missing = $h[0];
        $best = $parent + 1e-9 * abs($parent) + 1e-12;
        $cut = 0;
        $missingLeft = false;
        $acc = 0;
        $last = $this->sizes[$f];
        $tries = 0 === $missing ? 0 : 1;
        $low = $node->low;
        $high = $node->high;
        for ($k = 1; $k <= $last; ++$k) {
            $own = $h[$k];
            if (0 === $own) {
                continue;
            }
            $acc += $own;
            for ($with = 0; $with <= $tries; ++$with) {
                $left = 0 === $with ? $acc : $acc + $missing;
                $leftCurve = ($left >> $countBits & $curveMask) * $h1;
                $rightCurve = $curve - $leftCurve;
                $leftRows = $countBits > 0 ? $left & $countMask : $leftCurve * $perCurve;
                if ($leftRows < $least || $rows - $leftRows < $least) {
                    continue;
                }
                $leftGradient = ($left >> $shift) * $g1;
                $rightGradient = $gradient - $leftGradient;
                if ($bounded) {
                    $a = max($low, min($high, $leftGradient / ($leftCurve + $ridge)));
                    $b = max($low, min($high, $rightGradient / ($rightCurve + $ridge)));
                    if ($rising * ($b - $a) < 0) {
                        continue;
                    }
                    $score = 2 * $a * $leftGradient - ($leftCurve + $ridge) * $a * $a + 2 * $b * $rightGradient - ($rightCurve + $ridge) * $b * $b;
                } else {
                    $score = $leftGradient * $leftGradient / ($leftCurve + $ridge) + $rightGradient * $rightGradient / ($rightCurve + $ridge);
                }
                if ($score > $best) {
                    $best = $score;
                    $cut = $k;
                    $missingLeft = 1 === $with;
                }
            }
        }
        if (0 === $cut) {
            return null;
        }
        if (0 === $missing) {
            $missingLeft = $this->isLargerLeft($h, $cut, $rows);
        }

        return new Division($f, $best - $parent, $cut, $cut + 1, null, $missingLeft);
    }

    /**
     * What was never missing goes, when it is, where more rows go.
     *
     * @param array<int, int> $h
     */
    private function isLargerLeft(array $h, int $cut, int $rows): bool
    {
        $left = $all = 0;
        foreach ($h as $k => $v) {
            $weight = $this->packing->countBits > 0 ? $v & $this->packing->countMask : $v >> $this->packing->countBits & $this->packing->curveMask;
            $all += $weight;
            $left += $k <= $cut ? $weight : 0;
        }

        return 2 * $left > $all;
    }

    /**
     * Levels in the order of what they pull toward, smoothed; then as a cut.
     *
     * @param array<int, int>     $h
     * @param array{float, float} $scale
     */
    private function bestSet(int $f, array $h, Sprout $node, array $scale, int $rows): ?Division
    {
        [$g1, $h1] = $scale;
        $countBits = $this->packing->countBits;
        $curveMask = $this->packing->curveMask;
        $shift = $this->packing->gradientShift;
        $ridge = $this->limits->ridge;
        $gradient = ($node->total >> $shift) * $g1;
        $curve = ($node->total >> $countBits & $curveMask) * $h1;
        $perCurve = $rows / max(1e-12, $curve);
        $parent = $gradient * $gradient / ($curve + $ridge);
        $pull = [];
        foreach ($h as $k => $v) {
            if (0 !== $v) {
                $pull[$k] = ($v >> $shift) * $g1 / (($v >> $countBits & $curveMask) * $h1 + self::LEVEL_RIDGE);
            }
        }
        if (\count($pull) < 2) {
            return null;
        }
        // Codes come ascending and sorting is stable: of equal pulls the smaller code is first.
        asort($pull);
        $order = array_keys($pull);
        $best = $parent + 1e-9 * abs($parent) + 1e-12;
        $taken = 0;
        $acc = 0;
        for ($i = 0, $n = \count($order) - 1; $i < $n; ++$i) {
            $acc += $h[$order[$i]];
            $leftCurve = ($acc >> $countBits & $curveMask) * $h1;
            $leftRows = $countBits > 0 ? $acc & $this->packing->countMask : $leftCurve * $perCurve;
            if ($leftRows < $this->limits->rows || $rows - $leftRows < $this->limits->rows) {
                continue;
            }
            $leftGradient = ($acc >> $shift) * $g1;
            $score = $leftGradient ** 2 / ($leftCurve + $ridge) + ($gradient - $leftGradient) ** 2 / ($curve - $leftCurve + $ridge);
            if ($score > $best) {
                $best = $score;
                $taken = $i + 1;
            }
        }
        if (0 === $taken) {
            return null;
        }
        $in = array_fill_keys(\array_slice($order, 0, $taken), true);
        $leftLarger = false;
        if (!isset($pull[0])) {
            $sum = 0;
            foreach ($in as $k => $_) {
                $sum += $h[$k];
            }
            $leftLarger = 2 * ($sum >> $countBits & $curveMask) * $h1 > $curve;
        }
        $left = [];
        for ($k = 1; $k <= $this->sizes[$f]; ++$k) {
            if (isset($in[$k]) || (!isset($pull[$k]) && $leftLarger)) {
                $left[] = $k;
            }
        }

        return new Division($f, $best - $parent, 0, 0, $left, isset($pull[0]) ? isset($in[0]) : $leftLarger);
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
