<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Boosting;

use Dokimos\Core\Learn\Tree\Division;
use Dokimos\Core\Learn\Tree\Packing;

/** The best way to divide a node by one column, from its histogram of gradients and curvatures. */
final readonly class CutSearch
{
    /** What levels of a category are smoothed by before they are sorted. */
    private const LEVEL_RIDGE = 10.0;
    /** Of columns that gain the same but for rounding, the first counts. */
    private const SAME = 1 + 1e-12;

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
     * @param float               $over  what it has to gain more than
     */
    public function best(int $f, array $h, Sprout $node, array $scale, int $rows, float $over): ?Division
    {
        $plain = 0 === $this->limits->rising[$f] && -\INF === $node->low && \INF === $node->high;

        $found = match (true) {
            $this->levels[$f] => $this->bestSet($f, $h, $node, $scale, $rows),
            $plain => $this->plainCut($f, $h, $node, $scale, $rows, $over),
            default => $this->bestCut($f, $h, $node, $scale, $rows),
        };

        return null !== $found && $found->gain > $over * self::SAME ? $found : null;
    }

    /**
     * Nothing bounds what leaves may say.
     *
     * @param array<int, int>     $h
     * @param array{float, float} $scale
     */
    private function plainCut(int $f, array $h, Sprout $node, array $scale, int $rows, float $over): ?Division
    {
        // In steps of gradient and of curvature, so that numbers are whole but for the ridge.
        $unit = $scale[0] * $scale[0] / $scale[1];
        $ridge = $this->limits->ridge / $scale[1];
        $steps = $node->total >> $this->packing->countBits & $this->packing->curveMask;
        // No slope is left, or none that squares to a number.
        if (0 === $steps || $unit <= 0.0) {
            return null;
        }
        $gradient = (float) ($node->total >> $this->packing->gradientShift);
        $both = $steps + 2 * $ridge;
        $parent = $gradient * $gradient / ($steps + $ridge);
        // What a cut scores over this, it gains; a single leaf scores less only because of the ridge.
        $base = $gradient * $gradient / $both;
        $bar = max($parent * (1 + 1e-9) + 1e-12 / $unit, $parent + $over * self::SAME / $unit) - $base;
        $least = $this->limits->rows;
        $most = $rows;
        if (0 === $this->packing->countBits) {
            // Without counts in the numbers, rows are told by their curvature.
            $least *= $steps / $rows;
            $most = $steps;
        }
        $least = max(1, (int) ceil($least - 1e-9));
        $most -= $least;
        $missing = $h[0];
        [$bar, $cut, $under] = $this->scan($h, $this->sizes[$f], 0, $least, $most, $ridge, $both, $gradient, $bar * $both);
        $missingLeft = 2 * $under > $most + $least;
        if (0 !== $missing) {
            $missingLeft = false;
            [$higher, $with] = $this->scan($h, $this->sizes[$f], $missing, $least, $most, $ridge, $both, $gradient, $bar);
            if ($with > 0) {
                $bar = $higher;
                $cut = $with;
                $missingLeft = true;
            }
        }

        return 0 === $cut ? null : new Division($f, ($bar / $both + $base - $parent) * $unit, $cut, $cut + 1, null, $missingLeft);
    }

    /**
     * Hot loop: with l of the gradient g and a of the curvature t on the left, a cut scores g²/t + (t l − a g)² / (t a (t − a)). It is
     * compared without dividing.
     *
     * @param array<int, int> $h
     * @param int             $start what goes left besides
     * @param float           $bar   what has to be surpassed, in units of the second term times t
     *
     * @return array{float, int, int} the best of that, its code, rows on the left; code 0: none
     */
    private function scan(
        array $h,
        int $last,
        int $start,
        int $least,
        int $most,
        float $ridge,
        float $both,
        float $gradient,
        float $bar,
    ): array {
        $countBits = $this->packing->countBits;
        $countMask = $this->packing->countMask;
        $curveMask = $this->packing->curveMask;
        $shift = $this->packing->gradientShift;
        $counted = $countBits > 0;
        $cut = $under = 0;
        $acc = $start;
        for ($k = 1; $k <= $last; ++$k) {
            $own = $h[$k];
            if (0 === $own) {
                continue;
            }
            $acc += $own;
            $steps = $acc >> $countBits & $curveMask;
            $size = $counted ? $acc & $countMask : $steps;
            if ($size < $least) {
                continue;
            }
            if ($size > $most) {
                break;
            }
            $a = $steps + $ridge;
            $d = $both * ($acc >> $shift) - $a * $gradient;
            $d *= $d;
            $ab = $a * ($both - $a);
            if ($d > $bar * $ab) {
                $bar = $d / $ab;
                $cut = $k;
                $under = $size;
            }
        }

        return [$bar, $cut, $under];
    }

    /**
     * Leaves may only rise or fall with the column, or with one above.
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
