<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

use Dokimos\Core\Progress;
use Random\Randomizer;

/**
 * Grows a tree on packed rows without an object or a list for each node: nodes are stretches of one list of rows, divided where they stand.
 * Of many rows columns are compared in histograms; of few, which is most of a deep tree, by putting their codes in order.
 */
final readonly class PackedGrower
{
    /** Above it a histogram is quicker (measured). */
    private const FEW = 31;
    private const BITS = 5;
    private const PLACE = 31;
    /** Room for as many keys. */
    private const PLACES = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0];

    /** @param int $tried columns tried at each node, drawn anew; 0 = all */
    public function __construct(private PackedSearch $search, private Criterion $criterion, private Limits $limits, private int $tried, private ?Randomizer $random)
    {
    }

    /** @param list<int> $rows ascending */
    public function grow(array $rows, ?Progress $progress = null): Grown
    {
        $grown = new Grown();
        $search = $this->search;
        $two = 2 === $search->cells->classes;
        $features = array_keys($search->cells->codes);
        $all = max(1, \count($rows));
        // Lists that are there already are written, which costs less than appending.
        $aside = $rows;
        [$froms, $ends, $sums, $depths, $parents, $sides] = [[0], [\count($rows)], [$search->sum($rows, 0, \count($rows))], [0], [-1], [false]];
        // Depth first, left before right: nodes come out in pre-order.
        for ($top = 0; $top >= 0;) {
            $from = $froms[$top];
            $end = $ends[$top];
            $packed = $sums[$top];
            $depth = $depths[$top];
            $parent = $parents[$top];
            $counts = $two ? $search->counts($packed) : $search->cells->moments($rows, $from, $end);
            $node = $grown->add($counts, $depth);
            if ($parent >= 0) {
                if ($sides[$top]) {
                    $grown->right[$parent] = $node;
                } else {
                    $grown->left[$parent] = $node;
                }
            }
            --$top;
            $events = $packed >> $search->shift;
            // Rows of one class are not divided.
            $pure = $two && (0 === $events || $events === ($packed & $search->mask));
            $by = $pure || $end - $from < 2 ? null : $this->division($rows, $from, $end, $packed, $counts, $depth, $features);
            if (null === $by) {
                if ($end - $from > self::FEW) {
                    $progress?->report(0.9 * $end / $all);
                }
                continue;
            }
            $grown->divisions[$node] = $by;
            $in = null === $by->left ? null : array_fill_keys($by->left, true);
            $cut = $by->cut;
            $least = $by->missingLeft ? 0 : 1;
            $c = $search->packs[$by->feature];
            $s = $search->shifts[$by->feature];
            $m = $search->masks[$by->feature];
            $others = 0;
            $middle = $from;
            for ($i = $from; $i < $end; ++$i) {
                $r = $rows[$i];
                $k = $c[$r] >> $s & $m;
                if (null === $in || 0 === $k ? $k <= $cut && $k >= $least : isset($in[$k])) {
                    $rows[$middle++] = $r;
                } else {
                    $aside[$others++] = $r;
                }
            }
            for ($i = 0; $i < $others; ++$i) {
                $rows[$middle + $i] = $aside[$i];
            }
            $under = $search->sum($rows, $from, $middle);
            ++$top;
            $froms[$top] = $middle;
            $ends[$top] = $end;
            $sums[$top] = $packed - $under;
            $depths[$top] = $depth + 1;
            $parents[$top] = $node;
            $sides[$top] = true;
            ++$top;
            $froms[$top] = $from;
            $ends[$top] = $middle;
            $sums[$top] = $under;
            $depths[$top] = $depth + 1;
            $parents[$top] = $node;
            $sides[$top] = false;
            if ($end - $from > self::FEW) {
                $progress?->report(0.9 * $from / $all);
            }
        }

        return $grown;
    }

    /**
     * @param array<int, int> $rows     a list
     * @param list<float>     $counts
     * @param list<int>       $features
     */
    private function division(array $rows, int $from, int $end, int $packed, array $counts, int $depth, array $features): ?Division
    {
        $weight = $this->criterion->weight($counts);
        $total = $this->criterion->total($counts);
        if ($depth >= $this->limits->depth || $weight < $this->limits->divide || $weight < 2 * $this->limits->leaf || $total <= 1e-12 * $weight) {
            return null;
        }
        $most = \count($features);
        if ($this->tried > 0 && null !== $this->random) {
            /** @var list<int> $features */
            $features = $this->random->shuffleArray($features);
            $most = min($most, $this->tried);
        }
        $best = $end - $from > self::FEW ? $this->ofMany($rows, $from, $end, $packed, $features, $most) : $this->ofFew($rows, $from, $end, $packed, $features, $most);

        // What is left of a difference of large sums is no gain.
        return null === $best || $best->gain <= 1e-10 * $total || $best->gain < $this->limits->gain * $weight ? null : $best;
    }

    /**
     * @param array<int, int> $rows     a list
     * @param list<int>       $features
     */
    private function ofMany(array $rows, int $from, int $end, int $packed, array $features, int $most): ?Division
    {
        $best = $this->search->among(\array_slice($features, 0, $most), $rows, $from, $end, $packed);
        // A node that none of the drawn columns can divide goes on drawing.
        for ($i = $most, $all = \count($features); null === $best && $i < $all; ++$i) {
            $best = $this->search->among([$features[$i]], $rows, $from, $end, $packed);
        }

        return $best?->division($this->search->cells);
    }

    /**
     * Hot loop: the codes of a column in order, each put in among those before it; then the cuts between them as PackedSearch compares
     * them, once with the missing values on the right and once on the left.
     *
     * @param array<int, int> $rows     a list
     * @param list<int>       $features
     */
    private function ofFew(array $rows, int $from, int $end, int $packed, array $features, int $most): ?Division
    {
        $search = $this->search;
        $a = $search->packed;
        $leaf = $search->leaf;
        $mask = $search->mask;
        $shift = $search->shift;
        $n = $packed & $mask;
        $sum = $packed >> $shift;
        $last = $n - $leaf;
        $all = (float) $n;
        $whole = (float) $sum;
        // Nothing can gain more, since each side holds one class only.
        $enough = 2 === $search->cells->classes ? $sum * ($n - $sum) * (1 - 1e-12) : \INF;
        $best = $bar = 0.0;
        $levels = null;
        $feature = -1;
        $cut = $next = 0;
        $missingLeft = $missingSeen = false;
        $keys = self::PLACES;
        foreach ($features as $tried => $f) {
            if ($best >= $enough || ($tried >= $most && $best > 0.0)) {
                break;
            }
            if (null !== $search->cells->levels[$f]) {
                $found = $search->levels($f, $search->histogram($f, $rows, $from, $end), $packed);
                $score = null === $found ? 0.0 : $search->score($found->gain, $packed);
                if ($score > $bar) {
                    $best = $score;
                    $bar = $best * (1 + Search::SAME);
                    $feature = $f;
                    $levels = $found;
                }
                continue;
            }
            $c = $search->packs[$f];
            $s = $search->shifts[$f];
            $m = $search->masks[$f];
            $many = $missing = 0;
            for ($i = $from; $i < $end; ++$i) {
                $r = $rows[$i];
                $k = $c[$r] >> $s & $m;
                if (0 === $k) {
                    $missing += $a[$r];
                    continue;
                }
                $key = $k << self::BITS | $i - $from;
                $j = $many++;
                while ($j > 0 && $keys[$j - 1] > $key) {
                    $keys[$j] = $keys[$j - 1];
                    --$j;
                }
                $keys[$j] = $key;
            }
            for ($acc = 0;; $acc = $missing) {
                $start = $acc;
                $before = 0;
                for ($i = 0; $i < $many; ++$i) {
                    $key = $keys[$i];
                    $k = $key >> self::BITS;
                    if ($k !== $before) {
                        $left = $acc & $mask;
                        if ($left >= $leaf && $before > 0) {
                            if ($left > $last) {
                                break;
                            }
                            $d = $all * ($acc >> $shift) - $whole * $left;
                            $d *= $d;
                            $both = $left * ($all - $left);
                            if ($d > $bar * $both) {
                                $best = $d / $both;
                                $bar = $best * (1 + Search::SAME);
                                $feature = $f;
                                $levels = null;
                                $cut = $before;
                                $next = $k;
                                $missingLeft = 0 === $missing ? 2 * $left > $n : $start > 0;
                                $missingSeen = 0 !== $missing;
                            }
                        }
                        $before = $k;
                    }
                    $acc += $a[$rows[$from + ($key & self::PLACE)]];
                }
                if (0 === $missing || 0 !== $start) {
                    break;
                }
            }
            // Whether there is a value at all may tell the most.
            $apart = $missing & $mask;
            if ($apart >= $leaf && $n - $apart >= $leaf) {
                $d = $all * ($missing >> $shift) - $whole * $apart;
                $score = $d * $d / ($apart * ($all - $apart));
                if ($score > $bar) {
                    $best = $score;
                    $bar = $best * (1 + Search::SAME);
                    $feature = $f;
                    $levels = null;
                    $cut = \PHP_INT_MAX;
                    $next = 0;
                    $missingLeft = false;
                    $missingSeen = true;
                }
            }
        }

        return $feature < 0 ? null : $levels?->division($search->cells) ?? new Division($feature, $search->gain($best, $packed), $cut, $next, null, $missingLeft, [], $missingSeen);
    }
}
