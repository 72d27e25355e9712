<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Boosting;

use Dokimos\Core\Learn\Tree\Division;

/** The best way to divide a node by one column, from its histogram of gradients and curvatures. */
final readonly class CutSearch
{
    /** What levels of a category are smoothed by before they are sorted. */
    private const LEVEL_RIDGE = 10.0;

    /**
     * @param list<int>  $sizes  per column, the largest code
     * @param list<bool> $levels per column, whether the codes have no order
     */
    public function __construct(private array $sizes, private array $levels, private Packing $packing, private TreeLimits $limits)
    {
    }

    /**
     * @param array<int, int>     $h     packed sums by code
     * @param array{float, float} $scale what one step of gradient and of curvature stand for
     * @param int                 $rows  of the node
     */
    public function best(int $f, array $h, Sprout $node, array $scale, int $rows): ?Division
    {
        $plain = 0 === $h[0] && 0 === $this->limits->rising[$f] && -\INF === $node->low && \INF === $node->high;

        return match (true) {
            $this->levels[$f] => $this->bestSet($f, $h, $node, $scale, $rows),
            $plain => $this->plainCut($f, $h, $node, $scale, $rows),
            default => $this->bestCut($f, $h, $node, $scale, $rows),
        };
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
}
