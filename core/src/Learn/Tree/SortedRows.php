<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** Up to 62 rows, sorted by each column when it is first asked for; nodes are sets of them, one bit a row. */
final class SortedRows
{
    /** Columns of more codes are sorted by comparing. */
    private const CODES = 600;

    /** @var list<int> weight and outcome of each row */
    private readonly array $own;
    /** @var array<int, list<int>> by column: code and place of each row in one number, ascending */
    private array $orders = [];

    /** @param list<int> $rows */
    public function __construct(private readonly PackedSearch $search, private readonly array $rows)
    {
        $own = [];
        foreach ($rows as $r) {
            $own[] = $search->packed[$r];
        }
        $this->own = $own;
    }

    public function sum(int $bits): int
    {
        $sum = 0;
        foreach ($this->own as $i => $v) {
            if (0 !== ($bits >> $i & 1)) {
                $sum += $v;
            }
        }

        return $sum;
    }

    /** @return list<int> */
    public function of(int $bits): array
    {
        $out = [];
        foreach ($this->rows as $i => $r) {
            if (0 !== ($bits >> $i & 1)) {
                $out[] = $r;
            }
        }

        return $out;
    }

    /** @return array{int, int} which of them go left, and their weight and outcomes */
    public function left(Division $by, int $bits): array
    {
        $own = $this->own;
        $in = null === $by->left ? null : array_fill_keys($by->left, true);
        $cut = $by->cut;
        $left = $sum = 0;
        foreach ($this->orders[$by->feature] ??= $this->sorted($by->feature) as $key) {
            $i = $key & 63;
            if (0 === ($bits >> $i & 1)) {
                continue;
            }
            $k = $key >> 6;
            if (0 === $k ? $by->missingLeft : (null === $in ? $k <= $cut : isset($in[$k]))) {
                $left |= 1 << $i;
                $sum += $own[$i];
            }
        }

        return [$left, $sum];
    }

    /**
     * @param list<int> $features
     * @param int       $packed   their weight and outcomes
     */
    public function among(array $features, int $bits, int $packed): ?Found
    {
        $best = null;
        foreach ($features as $f) {
            if ($this->search->isPure($best, $packed)) {
                break;
            }
            $order = $this->orders[$f] ??= $this->sorted($f);
            if (null !== $this->search->cells->levels[$f]) {
                $best = Found::better($best, $this->search->levels($f, $this->histogram($order, $bits), $packed));
                continue;
            }
            $bar = null === $best ? 0.0 : $this->search->bar($best->gain, $packed);
            $without = $this->cut($order, $bits, $packed, 0, $bar);
            $missing = $without[4];
            if (0 === $missing) {
                $best = 0 === $without[1] ? $best : Found::better($best, $this->search->found($f, $without, null, 0, $packed));
                continue;
            }
            $with = $this->cut($order, $bits, $packed, $missing, max($bar, $without[0] * (1 + Search::SAME)));
            $best = Found::better($best, $this->search->found($f, $without, $with, $missing, $packed));
        }

        return $best;
    }

    /** @return list<int> */
    private function sorted(int $f): array
    {
        $c = $this->search->packs[$f];
        $s = $this->search->shifts[$f];
        $m = $this->search->masks[$f];
        $size = $this->search->cells->sizes[$f];
        $keys = [];
        if ($size > self::CODES) {
            foreach ($this->rows as $i => $r) {
                $keys[] = ($c[$r] >> $s & $m) << 6 | $i;
            }
            sort($keys);

            return $keys;
        }
        // Rows of the same code as a chain, and the chains one after the other: quicker than sorting where there are few codes. Places of
        // lists that are there already are written, which costs less than appending.
        $first = array_fill(0, $size + 1, -1);
        $next = $keys = $this->rows;
        foreach ($this->rows as $i => $r) {
            $k = $c[$r] >> $s & $m;
            $next[$i] = $first[$k];
            $first[$k] = $i;
        }
        $at = 0;
        for ($k = 0; $k <= $size; ++$k) {
            $i = $first[$k];
            while ($i >= 0) {
                $keys[$at++] = $k << 6 | $i;
                $i = $next[$i];
            }
        }

        /** @var list<int> $keys */
        return $keys;
    }

    /**
     * @param list<int> $order
     *
     * @return array<int, int> by code, ascending
     */
    private function histogram(array $order, int $bits): array
    {
        $h = [];
        foreach ($order as $key) {
            if (0 !== ($bits >> ($key & 63) & 1)) {
                $k = $key >> 6;
                $h[$k] = ($h[$k] ?? 0) + $this->own[$key & 63];
            }
        }

        return $h;
    }

    /**
     * Hot loop: as PackedSearch does in a histogram.
     *
     * @param list<int> $order
     * @param int       $start what goes left besides: what is missing
     * @param float     $bar   what has to be surpassed
     *
     * @return array{float, int, int, int, int} as there; and what is missing
     */
    private function cut(array $order, int $bits, int $packed, int $start, float $bar): array
    {
        $own = $this->own;
        $leaf = $this->search->leaf;
        $mask = $this->search->mask;
        $shift = $this->search->shift;
        $n = $packed & $mask;
        $sum = $packed >> $shift;
        $most = $n - $leaf;
        $all = (float) $n;
        $best = 0.0;
        $cut = $next = $before = $under = $missing = 0;
        $acc = $start;
        foreach ($order as $key) {
            $i = $key & 63;
            if (0 === ($bits >> $i & 1)) {
                continue;
            }
            $k = $key >> 6;
            if ($k !== $before) {
                $left = $acc & $mask;
                if ($left >= $leaf && $before > 0) {
                    if ($left > $most) {
                        break;
                    }
                    $d = $all * ($acc >> $shift) - (float) $sum * $left;
                    $d *= $d;
                    $both = $left * ($all - $left);
                    if ($d > $bar * $both) {
                        $best = $d / $both;
                        $bar = $best * (1 + Search::SAME);
                        $cut = $before;
                        $next = $k;
                        $under = $acc;
                    }
                }
                $before = $k;
            } elseif (0 === $k) {
                $missing += $own[$i];
                continue;
            }
            $acc += $own[$i];
        }

        return [$best, $cut, $next, $under, $missing];
    }
}
