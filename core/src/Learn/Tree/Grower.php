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
    /** Of gains that differ by less than this, relatively, the first counts: the order of rows must not decide. */
    private const SAME = 1e-9;
    private const EVERY_SUBSET = 10;

    /** Up to so many rows are sorted; more fill a histogram. */
    private const SORTED = 64;

    /** @var list<list<int>> for classes without weights: code and class of a row in one number */
    private array $coded;

    /**
     * @param list<list<int>>  $codes   per column, one code per row; 0 = missing
     * @param list<int>        $sizes   per column, the largest code
     * @param list<?list<int>> $levels  per column: null for an order; else the place in byte order of each code from 1 on
     * @param list<int|float>  $y       the place of the class, or the number
     * @param ?list<float>     $weights per row
     * @param int              $classes 0 for a number
     * @param int              $tried   columns tried at each node, drawn anew; 0 = all
     * @param bool             $drawn   one cut per column is drawn instead of comparing all
     */
    public function __construct(
        private array $codes,
        private array $sizes,
        private array $levels,
        private array $y,
        private ?array $weights,
        private int $classes,
        private Criterion $criterion,
        private Limits $limits,
        private int $tried = 0,
        private ?Randomizer $random = null,
        private bool $drawn = false,
    ) {
        $coded = [];
        foreach ($classes > 0 && null === $weights && Criterion::Gini === $criterion ? $codes : [] as $column) {
            $own = [];
            foreach ($column as $i => $code) {
                $own[] = $code * $classes + (int) $y[$i];
            }
            $coded[] = $own;
        }
        $this->coded = $coded;
    }

    /** @param list<int> $rows a row may stand in it more than once */
    public function grow(array $rows, ?Progress $progress = null): Grown
    {
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
            $best = $this->division($own, $counts, $depth);
            if (null === $best) {
                $progress?->report(0.9 * ($settled += \count($own)) / $all);
                continue;
            }
            $grown->divisions[$node] = $best;
            [$left, $right] = $this->parted($own, $best);
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
        $y = $this->y;
        $weights = $this->weights;
        if ($this->classes > 0) {
            $counts = array_fill(0, $this->classes, 0.0);
            foreach ($rows as $r) {
                $counts[(int) $y[$r]] += $weights[$r] ?? 1.0;
            }

            return array_values($counts);
        }
        $n = $sum = $squares = 0.0;
        foreach ($rows as $r) {
            $w = $weights[$r] ?? 1.0;
            $v = $y[$r];
            $n += $w;
            $sum += $w * $v;
            $squares += $w * $v * $v;
        }

        return [$n, $sum, $squares];
    }

    /**
     * @param list<int>   $rows
     * @param list<float> $counts
     */
    private function division(array $rows, array $counts, int $depth): ?Division
    {
        $weight = $this->criterion->weight($counts);
        $total = $this->criterion->total($counts);
        if ($depth >= $this->limits->depth || $weight < $this->limits->divide || $weight < 2 * $this->limits->leaf || $total <= 1e-12 * $weight) {
            return null;
        }
        $features = array_keys($this->codes);
        $most = \count($features);
        if ($this->tried > 0 && null !== $this->random) {
            /** @var list<int> $features */
            $features = $this->random->shuffleArray($features);
            $most = min($most, $this->tried);
        }
        $best = null;
        $moments = Criterion::Variance === $this->criterion || (Criterion::Gini === $this->criterion && 2 === $this->classes);
        foreach ($features as $i => $f) {
            // A node that none of the drawn columns can divide goes on drawing.
            if ($i >= $most && null !== $best) {
                break;
            }
            $found = [] !== $this->coded && null === $this->levels[$f] && !$this->drawn ? $this->byGini($f, $rows, $counts) : ($moments ? $this->byMoments($f, $rows, $weight, $counts[1]) : $this->byCounts($f, $rows, $counts, $total));
            if (null !== $found && $found->gain > ($best->gain ?? 0.0) * (1 + self::SAME)) {
                $best = $found;
            }
        }

        // What is left of a difference of large sums is no gain.
        return null !== $best && $best->gain > 1e-10 * $total && $best->gain >= $this->limits->gain * $weight ? $best : null;
    }

    /**
     * Weight and weighted sum of the outcome per code seen. Hot loop: one code and one addition or two per row; where there are far more
     * codes than rows, only what occurs is kept and sorted.
     *
     * @param list<int> $rows
     *
     * @return array{array<int, int|float>, array<int, int|float>} by code, ascending; codes without rows may have weight 0
     */
    private function moments(int $f, array $rows): array
    {
        $c = $this->codes[$f];
        $w = $s = [];
        $sparse = 6 * \count($rows) < $this->sizes[$f];
        $y = $this->y;
        if (!$sparse) {
            $w = $s = array_fill(0, $this->sizes[$f] + 1, 0.0);
        }
        if (null === $this->weights) {
            foreach ($rows as $r) {
                $k = $c[$r];
                $w[$k] = ($w[$k] ?? 0.0) + 1.0;
                $s[$k] = ($s[$k] ?? 0.0) + $y[$r];
            }
        } else {
            $weights = $this->weights;
            foreach ($rows as $r) {
                $k = $c[$r];
                $w[$k] = ($w[$k] ?? 0.0) + $weights[$r];
                $s[$k] = ($s[$k] ?? 0.0) + $weights[$r] * $y[$r];
            }
        }
        if ($sparse) {
            ksort($w);
            ksort($s);
        }

        return [$w, $s];
    }

    /**
     * For Gini without weights, which is most of what forests do: counts move from right to left code by code, and the sums of their
     * squares with them. Hot loop; all numbers are whole.
     *
     * @param list<int>   $rows
     * @param list<float> $counts
     */
    private function byGini(int $f, array $rows, array $counts): ?Division
    {
        $classes = $this->classes;
        $cy = $this->coded[$f];
        $at = $many = [];
        $n = \count($rows);
        // A histogram of far more codes than rows would mostly count nothing.
        if ($n <= self::SORTED || 2 * $n < $this->sizes[$f] * $classes) {
            $keys = [];
            foreach ($rows as $r) {
                $keys[] = $cy[$r];
            }
            sort($keys);
            $before = -1;
            $last = -1;
            foreach ($keys as $key) {
                if ($key === $before) {
                    ++$many[$last];
                } else {
                    $at[] = $before = $key;
                    $many[] = 1;
                    ++$last;
                }
            }
        } else {
            $h = array_fill(0, ($this->sizes[$f] + 1) * $classes, 0);
            foreach ($rows as $r) {
                ++$h[$cy[$r]];
            }
            foreach ($h as $key => $count) {
                if (0 !== $count) {
                    $at[] = $key;
                    $many[] = $count;
                }
            }
        }
        $all = [];
        $parent = 0;
        foreach ($counts as $count) {
            $all[] = $c = (int) $count;
            $parent += $c * $c;
        }
        $parent /= $n;
        $leaf = $this->limits->leaf;
        $best = 0.0;
        $cut = $next = 0;
        $missingLeft = false;
        $missing = 0;
        foreach ([false, true] as $with) {
            if ($with && 0 === $missing) {
                break;
            }
            $left = array_fill(0, $classes, 0);
            $right = $all;
            $leftSquares = $leftCount = 0;
            $rightSquares = $parent * $n;
            $rightCount = $n;
            $before = 0;
            foreach ($at as $j => $key) {
                $code = intdiv($key, $classes);
                if (0 === $code) {
                    $missing += $with ? 0 : $many[$j];
                    if (!$with) {
                        continue;
                    }
                } elseif ($code !== $before) {
                    if ($before > 0 && $leftCount >= $leaf && $rightCount >= $leaf) {
                        $gain = $leftSquares / $leftCount + $rightSquares / $rightCount - $parent;
                        if ($gain > $best * (1 + self::SAME)) {
                            $best = $gain;
                            $cut = $before;
                            $next = $code;
                            $missingLeft = $with;
                        }
                    }
                    $before = $code;
                }
                $k = $key - $code * $classes;
                $c = $many[$j];
                $leftSquares += $c * (2 * $left[$k] + $c);
                $rightSquares -= $c * (2 * $right[$k] - $c);
                $left[$k] += $c;
                $right[$k] -= $c;
                $leftCount += $c;
                $rightCount -= $c;
            }
            // Whether there is a value at all may tell the most.
            if (!$with && $missing > 0 && $leftCount >= $leaf && $rightCount >= $leaf) {
                $gain = $leftSquares / $leftCount + $rightSquares / $rightCount - $parent;
                if ($gain > $best * (1 + self::SAME)) {
                    $best = $gain;
                    $cut = \PHP_INT_MAX;
                    $next = 0;
                    $missingLeft = false;
                }
            }
        }
        if (0 === $cut) {
            return null;
        }
        if (0 === $missing) {
            $under = 0;
            foreach ($at as $j => $key) {
                $under += intdiv($key, $classes) <= $cut ? $many[$j] : 0;
            }
            $missingLeft = 2 * $under > $n;
        }

        return new Division($f, $best, $cut, $next, null, $missingLeft, missingSeen: $missing > 0);
    }

    /**
     * For variance, and for Gini of two classes, which is twice the variance of 0 and 1: the gain is a matter of sums of each side.
     *
     * @param list<int> $rows
     */
    private function byMoments(int $f, array $rows, float $weight, float $sum): ?Division
    {
        [$w, $s] = $this->moments($f, $rows);
        if (null !== $this->levels[$f]) {
            return $this->bySortedLevels($f, $w, $s, $weight, $sum);
        }
        $missingWeight = $w[0] ?? 0;
        $missingSum = $s[0] ?? 0;
        $cutAt = $this->drawn ? $this->drawnCut($w) : null;
        $leaf = $this->limits->leaf;
        $parent = $sum * $sum / $weight;
        $leftWeight = $leftSum = 0.0;
        $best = $parent;
        $before = $cut = $next = 0;
        $missingLeft = false;
        foreach ($w as $k => $own) {
            if (0 === $k || $own <= 0) {
                continue;
            }
            if ($before > 0 && (null === $cutAt || $before === $cutAt)) {
                $rightWeight = $weight - $leftWeight;
                $rightSum = $sum - $leftSum;
                if ($leftWeight >= $leaf && $rightWeight >= $leaf) {
                    $score = $leftSum * $leftSum / $leftWeight + $rightSum * $rightSum / $rightWeight;
                    if ($score - $parent > ($best - $parent) * (1 + self::SAME)) {
                        [$best, $cut, $next, $missingLeft] = [$score, $before, $k, false];
                    }
                }
                if ($missingWeight > 0) {
                    $a = $leftWeight + $missingWeight;
                    $b = $rightWeight - $missingWeight;
                    if ($a >= $leaf && $b >= $leaf) {
                        $score = ($leftSum + $missingSum) ** 2 / $a + ($rightSum - $missingSum) ** 2 / $b;
                        if ($score - $parent > ($best - $parent) * (1 + self::SAME)) {
                            [$best, $cut, $next, $missingLeft] = [$score, $before, $k, true];
                        }
                    }
                }
            }
            $leftWeight += $own;
            $leftSum += $s[$k];
            $before = $k;
        }
        // Whether there is a value at all may tell the most.
        if ($missingWeight >= $leaf && $leftWeight >= $leaf) {
            $score = $leftSum * $leftSum / $leftWeight + $missingSum * $missingSum / $missingWeight;
            if ($score - $parent > ($best - $parent) * (1 + self::SAME)) {
                [$best, $cut, $next, $missingLeft] = [$score, \PHP_INT_MAX, 0, false];
            }
        }
        if (0 === $cut) {
            return null;
        }
        if ($missingWeight <= 0) {
            $missingLeft = $this->isLargerLeft($w, $cut, $weight);
        }

        return new Division($f, $this->scaled($best - $parent), $cut, $next, null, $missingLeft, missingSeen: $missingWeight > 0);
    }

    /** Gini of two classes is twice the variance. */
    private function scaled(float $gain): float
    {
        return Criterion::Gini === $this->criterion ? 2 * $gain : $gain;
    }

    /** @param array<int, int|float> $w */
    private function isLargerLeft(array $w, int $cut, float $weight): bool
    {
        $left = 0.0;
        foreach ($w as $k => $own) {
            $left += $k <= $cut ? $own : 0.0;
        }

        return 2 * $left > $weight;
    }

    /** @param array<int, int|float> $w */
    private function drawnCut(array $w): int
    {
        $codes = [];
        foreach ($w as $k => $own) {
            if ($k > 0 && $own > 0) {
                $codes[] = $k;
            }
        }
        $n = \count($codes);

        return $n < 2 || null === $this->random ? -1 : $codes[$this->random->getInt(0, $n - 2)];
    }

    /**
     * Levels sorted by their mean outcome: the best division into two sets is one of those in this order (Fisher 1958; Breiman et al.
     * 1984, theorem 4.5). Missing is a level like the others.
     *
     * @param array<int, int|float> $w
     * @param array<int, int|float> $s
     */
    private function bySortedLevels(int $f, array $w, array $s, float $weight, float $sum): ?Division
    {
        $means = [];
        foreach ($w as $k => $own) {
            if ($own > 0) {
                $means[$k] = $s[$k] / $own;
            }
        }
        uksort($means, static fn (int $a, int $b) => $means[$a] <=> $means[$b] ?: $a <=> $b);
        $order = array_keys($means);
        $leaf = $this->limits->leaf;
        $parent = $sum * $sum / $weight;
        $best = $parent;
        $taken = 0;
        $leftWeight = $leftSum = 0.0;
        $at = $this->drawn && null !== $this->random && \count($order) > 1 ? $this->random->getInt(1, \count($order) - 1) : null;
        for ($i = 1, $n = \count($order); $i < $n; ++$i) {
            $leftWeight += $w[$order[$i - 1]];
            $leftSum += $s[$order[$i - 1]];
            $rightWeight = $weight - $leftWeight;
            if ((null !== $at && $i !== $at) || $leftWeight < $leaf || $rightWeight < $leaf) {
                continue;
            }
            $score = $leftSum * $leftSum / $leftWeight + ($sum - $leftSum) ** 2 / $rightWeight;
            if ($score - $parent > ($best - $parent) * (1 + self::SAME)) {
                $best = $score;
                $taken = $i;
            }
        }

        return 0 === $taken ? null : $this->levelDivision($f, $this->scaled($best - $parent), \array_slice($order, 0, $taken), $order, $w);
    }

    /**
     * @param list<int>             $left
     * @param list<int>             $present
     * @param array<int, int|float> $weights by code
     */
    private function levelDivision(int $f, float $gain, array $left, array $present, array $weights): Division
    {
        $in = array_flip($left);
        $places = $this->levels[$f] ?? [];
        $seen = array_values(array_filter($present, static fn (int $k) => $k > 0));
        usort($seen, static fn (int $a, int $b) => ($places[$a - 1] ?? \PHP_INT_MAX) <=> ($places[$b - 1] ?? \PHP_INT_MAX));
        if ([] !== $seen && !isset($in[$seen[0]])) {
            // Of the two sides the one with the first level is left.
            $in = array_flip(array_diff($present, $left));
        }
        $leftWeight = $all = 0.0;
        foreach ($present as $k) {
            $all += $weights[$k];
            $leftWeight += isset($in[$k]) ? $weights[$k] : 0.0;
        }
        // What was not seen in this node goes where more rows went.
        $missingLeft = \in_array(0, $present, true) ? isset($in[0]) : 2 * $leftWeight > $all;
        $codes = [];
        for ($k = 1, $size = $this->sizes[$f]; $k <= $size; ++$k) {
            if (isset($in[$k]) || (($weights[$k] ?? 0) <= 0 && 2 * $leftWeight > $all)) {
                $codes[] = $k;
            }
        }

        return new Division($f, $gain, 0, 0, $codes, $missingLeft, $seen, \in_array(0, $present, true));
    }

    /**
     * For entropy, gain ratio and more than two classes.
     *
     * @param list<int>   $rows
     * @param list<float> $counts
     */
    private function byCounts(int $f, array $rows, array $counts, float $total): ?Division
    {
        $classes = $this->classes;
        $c = $this->codes[$f];
        $y = $this->y;
        $weights = $this->weights;
        $h = [];
        foreach ($rows as $r) {
            $k = $c[$r] * $classes + (int) $y[$r];
            $h[$k] = ($h[$k] ?? 0.0) + ($weights[$r] ?? 1.0);
        }
        ksort($h);
        $groups = [];
        foreach ($h as $k => $v) {
            $code = intdiv($k, $classes);
            $groups[$code] ??= array_fill(0, $classes, 0.0);
            $groups[$code][$k % $classes] = $v;
        }
        $sums = array_map(array_sum(...), $groups);
        if (null !== $this->levels[$f]) {
            [$gain, $left] = $this->bestSet($groups, $counts, $total);

            return null === $left ? null : $this->levelDivision($f, $gain, $left, array_keys($groups), $sums);
        }
        $missing = $groups[0] ?? null;
        unset($groups[0]);
        $cutAt = $this->drawn ? $this->drawnCut($sums) : null;
        $left = array_fill(0, $classes, 0.0);
        $best = 0.0;
        $cut = $before = $next = 0;
        $missingLeft = false;
        foreach ($groups as $code => $own) {
            if ($before > 0 && (null === $cutAt || $cutAt === $before)) {
                foreach (null === $missing ? [false] : [false, true] as $with) {
                    $gain = $this->gain($with && null !== $missing ? self::plus($left, $missing) : $left, $counts, $total);
                    if ($gain > $best * (1 + self::SAME)) {
                        [$best, $cut, $next, $missingLeft] = [$gain, $before, $code, $with];
                    }
                }
            }
            $left = self::plus($left, $own);
            $before = $code;
        }
        if (null !== $missing) {
            $gain = $this->gain($left, $counts, $total);
            if ($gain > $best * (1 + self::SAME)) {
                [$best, $cut, $next, $missingLeft] = [$gain, \PHP_INT_MAX, 0, false];
            }
        }
        if (0 === $cut) {
            return null;
        }

        return new Division($f, $best, $cut, $next, null, null === $missing ? $this->isLargerLeft($sums, $cut, array_sum($sums)) : $missingLeft, missingSeen: null !== $missing);
    }

    /**
     * All sets of up to ten levels; of more, those in the order of each class's share.
     *
     * @param array<int, array<int, float>> $groups
     * @param list<float>                   $counts
     *
     * @return array{float, ?list<int>}
     */
    private function bestSet(array $groups, array $counts, float $total): array
    {
        $codes = array_keys($groups);
        $n = \count($codes);
        $best = 0.0;
        $set = null;
        $zero = array_fill(0, $this->classes, 0.0);
        if ($n <= self::EVERY_SUBSET && $this->classes > 2) {
            // The last level stays right: a set and its complement are the same division.
            for ($mask = 1, $end = 1 << ($n - 1); $mask < $end; ++$mask) {
                $left = $zero;
                $in = [];
                for ($i = 0; $i < $n - 1; ++$i) {
                    if ($mask >> $i & 1) {
                        $left = self::plus($left, $groups[$codes[$i]]);
                        $in[] = $codes[$i];
                    }
                }
                $gain = $this->gain($left, $counts, $total);
                if ($gain > $best * (1 + self::SAME)) {
                    [$best, $set] = [$gain, $in];
                }
            }

            return [$best, $set];
        }
        for ($class = 2 === $this->classes ? 1 : 0; $class < $this->classes; ++$class) {
            $order = $codes;
            usort($order, static fn (int $a, int $b) => $groups[$a][$class] / array_sum($groups[$a]) <=> $groups[$b][$class] / array_sum($groups[$b]) ?: $a <=> $b);
            $left = $zero;
            for ($i = 1; $i < $n; ++$i) {
                $left = self::plus($left, $groups[$order[$i - 1]]);
                $gain = $this->gain($left, $counts, $total);
                if ($gain > $best * (1 + self::SAME)) {
                    [$best, $set] = [$gain, \array_slice($order, 0, $i)];
                }
            }
        }

        return [$best, $set];
    }

    /**
     * @param array<int, float> $a
     * @param array<int, float> $b
     *
     * @return array<int, float>
     */
    private static function plus(array $a, array $b): array
    {
        foreach ($b as $i => $v) {
            $a[$i] += $v;
        }

        return $a;
    }

    /**
     * @param array<int, float> $left
     * @param list<float>       $counts
     */
    private function gain(array $left, array $counts, float $total): float
    {
        $right = [];
        foreach ($counts as $i => $v) {
            $right[] = $v - $left[$i];
        }
        $left = array_values($left);
        $leftWeight = array_sum($left);
        $rightWeight = array_sum($right);
        if ($leftWeight < $this->limits->leaf || $rightWeight < $this->limits->leaf) {
            return 0.0;
        }
        $gain = $total - $this->criterion->total($left) - $this->criterion->total($right);
        if (Criterion::GainRatio === $this->criterion) {
            $parting = Criterion::Entropy->total([$leftWeight, $rightWeight]);

            // In units of weight, as the other criteria are.
            return $parting > 0.0 ? $gain / $parting * ($leftWeight + $rightWeight) : 0.0;
        }

        return $gain;
    }

    /**
     * @param list<int> $rows
     *
     * @return array{list<int>, list<int>}
     */
    private function parted(array $rows, Division $by): array
    {
        $c = $this->codes[$by->feature];
        $left = $right = [];
        if (null !== $by->left) {
            $in = array_fill_keys($by->left, true);
            if ($by->missingLeft) {
                $in[0] = true;
            }
            foreach ($rows as $r) {
                if (isset($in[$c[$r]])) {
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
