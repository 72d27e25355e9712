<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/**
 * For outcomes that are whole numbers, weighted by how often a row counts: the event of two classes, or a number in fine steps. Gini of
 * two classes is twice the variance of 0 and 1, so the gain is a matter of weight and sum on each side; both are kept in one whole
 * number per row, the weight in its lower bits, so that one addition fills a histogram.
 */
final readonly class PackedSearch
{
    private const ROOM = 61;

    /** Columns that share a number of codes, by the bits that each takes. */
    private const PER = [8 => 7, 15 => 4, 20 => 3, 31 => 2];

    /** @var list<int> weight and outcome of each row */
    public array $packed;
    /** The outcome begins at this bit. */
    public int $shift;
    public int $mask;
    private OrderedRows $ordered;

    /**
     * @param int             $leaf     weight of a leaf, at least
     * @param float           $scale    what one squared step of the outcome stands for
     * @param list<int>       $outcomes in steps
     * @param list<list<int>> $packs    by column: the codes of up to seven columns in one number per row, which is less memory to go through
     * @param list<int>       $shifts   where a column's code begins in it
     * @param list<int>       $masks
     */
    private function __construct(public Cells $cells, public int $leaf, private float $scale, private array $outcomes, public array $packs, public array $shifts, public array $masks)
    {
        $times = $cells->times;
        $this->shift = self::bits($cells);
        $this->mask = (1 << $this->shift) - 1;
        $packed = [];
        foreach ($outcomes as $i => $y) {
            $w = null === $times ? 1 : $times[$i];
            $packed[] = $w | $y * $w << $this->shift;
        }
        $this->packed = $packed;
        $this->ordered = new OrderedRows($packed, $this->leaf, $this->shift, [] === $cells->sizes ? 0 : max($cells->sizes));
    }

    public static function of(Cells $cells, Criterion $criterion, Limits $limits): self
    {
        $least = 0.0;
        $step = 1.0;
        if (Criterion::Variance === $criterion && [] !== $cells->y) {
            // The finest steps whose sum still fits.
            $steps = (1 << self::ROOM - 2 * self::bits($cells)) - 1;
            $step = max($cells->y) / $steps - min($cells->y) / $steps;
            $step = $step > 0.0 ? $step : 1.0;
            $least = min($cells->y) / $step;
        }
        $outcomes = [];
        foreach ($cells->y as $y) {
            $outcomes[] = (int) round($y / $step - $least);
        }

        // Gini of two classes is twice the variance.
        return new self($cells, max(1, (int) ceil($limits->leaf)), Criterion::Variance === $criterion ? $step * $step : 2.0, $outcomes, ...self::packs($cells));
    }

    /** @return array{list<list<int>>, list<int>, list<int>} */
    private static function packs(Cells $cells): array
    {
        $packs = $shifts = $masks = $alike = [];
        foreach ($cells->codes as $f => $codes) {
            $packs[] = $codes;
            $shifts[] = 0;
            $masks[] = -1;
            foreach (self::PER as $bits => $per) {
                if ($cells->sizes[$f] < 1 << $bits) {
                    $alike[$bits][] = $f;
                    break;
                }
            }
        }
        foreach ($alike as $bits => $columns) {
            foreach (array_chunk($columns, self::PER[$bits]) as $some) {
                $pack = $cells->codes[$some[0]];
                foreach ($some as $place => $f) {
                    $shifts[$f] = $bits * $place;
                    $masks[$f] = (1 << $bits) - 1;
                    foreach (0 === $place ? [] : $cells->codes[$f] as $i => $code) {
                        $pack[$i] |= $code << $bits * $place;
                    }
                }
                foreach ($some as $f) {
                    $packs[$f] = array_values($pack);
                }
            }
        }

        return [array_values($packs), array_values($shifts), array_values($masks)];
    }

    /** Bits that the weight of all rows takes. */
    private static function bits(Cells $cells): int
    {
        return max(1, (int) ceil(log((null === $cells->times ? \count($cells->y) : array_sum($cells->times)) + 1, 2)));
    }

    public function on(Cells $drawn): self
    {
        // Steps were made to fit as many rows as there are; a draw is of no more.
        return new self($drawn, $this->leaf, $this->scale, $this->outcomes, $this->packs, $this->shifts, $this->masks);
    }

    /** @param array<int, int> $rows a list */
    public function sum(array $rows, int $from, int $end): int
    {
        $a = $this->packed;
        $sum = 0;
        for ($i = $from; $i < $end; ++$i) {
            $sum += $a[$rows[$i]];
        }

        return $sum;
    }

    /**
     * @param list<int>       $features columns to compare
     * @param array<int, int> $rows     a list
     * @param int             $packed   weight and outcomes of those from $from on, before $end
     */
    public function among(array $features, array $rows, int $from, int $end, int $packed): ?Found
    {
        $best = null;
        foreach (array_chunk($features, 4) as $some) {
            if (4 === \count($some) && $this->isDense($some, $end - $from)) {
                foreach ($this->four($some, $rows, $from, $end) as $k => $h) {
                    $best = Found::better($best, $this->inHistogram($some[$k], $h, $packed));
                }
                continue;
            }
            foreach ($some as $f) {
                $best = Found::better($best, $this->one($f, $rows, $from, $end, $packed));
            }
        }

        return $best;
    }

    /** @param array<int, int> $rows a list */
    private function one(int $f, array $rows, int $from, int $end, int $packed): ?Found
    {
        if (null !== $this->cells->levels[$f] || $this->isDense([$f], $end - $from)) {
            return $this->inHistogram($f, $this->histogram($f, $rows, $from, $end), $packed);
        }
        $ordered = $this->ordered;
        [$keys, $missing] = $ordered->keys($this->packs[$f], $this->shifts[$f], $this->masks[$f], $rows, $from, $end);
        $without = $ordered->cut($keys, $rows, $from, $packed, 0, 0.0);
        $with = 0 === $missing ? null : $ordered->cut($keys, $rows, $from, $packed, $missing, $without[0] * (1 + Search::SAME));

        return $this->found($f, $without, $with, $missing, $packed);
    }

    /** @return array{float, float} weight of each of two classes */
    public function counts(int $packed): array
    {
        $events = $packed >> $this->shift;

        return [(float) (($packed & $this->mask) - $events), (float) $events];
    }

    /** A gain, in units of cut(). */
    public function score(float $gain, int $packed): float
    {
        return $gain * ($packed & $this->mask) / $this->scale;
    }

    public function gain(float $score, int $packed): float
    {
        return $this->scale * $score / ($packed & $this->mask);
    }

    /** @param list<int> $features */
    private function isDense(array $features, int $rows): bool
    {
        foreach ($features as $f) {
            if (3 * $rows + 200 < $this->cells->sizes[$f]) {
                return false;
            }
        }

        return true;
    }

    /**
     * Hot loop: four columns in one pass over the rows.
     *
     * @param list<int>       $features
     * @param array<int, int> $rows     a list
     *
     * @return list<array<int, int>>
     */
    private function four(array $features, array $rows, int $from, int $end): array
    {
        [$f0, $f1, $f2, $f3] = $features;
        $a = $this->packed;
        $c0 = $this->packs[$f0];
        $s0 = $this->shifts[$f0];
        $m0 = $this->masks[$f0];
        $c1 = $this->packs[$f1];
        $s1 = $this->shifts[$f1];
        $m1 = $this->masks[$f1];
        $c2 = $this->packs[$f2];
        $s2 = $this->shifts[$f2];
        $m2 = $this->masks[$f2];
        $c3 = $this->packs[$f3];
        $s3 = $this->shifts[$f3];
        $m3 = $this->masks[$f3];
        $h0 = array_fill(0, $this->cells->sizes[$f0] + 1, 0);
        $h1 = array_fill(0, $this->cells->sizes[$f1] + 1, 0);
        $h2 = array_fill(0, $this->cells->sizes[$f2] + 1, 0);
        $h3 = array_fill(0, $this->cells->sizes[$f3] + 1, 0);
        for ($i = $from; $i < $end; ++$i) {
            $r = $rows[$i];
            $w = $a[$r];
            $h0[$c0[$r] >> $s0 & $m0] += $w;
            $h1[$c1[$r] >> $s1 & $m1] += $w;
            $h2[$c2[$r] >> $s2 & $m2] += $w;
            $h3[$c3[$r] >> $s3 & $m3] += $w;
        }

        return [$h0, $h1, $h2, $h3];
    }

    /**
     * Weights and sums by code, ascending. Hot loop: one addition a row; where there are far more codes than rows, the codes that occur
     * are sorted instead, since most of a histogram would be empty.
     *
     * @param array<int, int> $rows a list
     *
     * @return array<int, int>
     */
    public function histogram(int $f, array $rows, int $from, int $end): array
    {
        $c = $this->packs[$f];
        $s = $this->shifts[$f];
        $m = $this->masks[$f];
        $a = $this->packed;
        $size = $this->cells->sizes[$f];
        if (12 * ($end - $from) + 64 >= $size) {
            $h = array_fill(0, $size + 1, 0);
            for ($i = $from; $i < $end; ++$i) {
                $r = $rows[$i];
                $h[$c[$r] >> $s & $m] += $a[$r];
            }

            return $h;
        }
        $h = [];
        for ($i = $from; $i < $end; ++$i) {
            $r = $rows[$i];
            $k = $c[$r] >> $s & $m;
            $h[$k] = ($h[$k] ?? 0) + $a[$r];
        }
        ksort($h);

        return $h;
    }

    /** @param array<int, int> $h */
    private function inHistogram(int $f, array $h, int $packed): ?Found
    {
        if (null !== $this->cells->levels[$f]) {
            return $this->levels($f, $h, $packed);
        }
        $missing = $h[0] ?? 0;
        $h[0] = 0;
        $without = $this->cut($h, $packed, 0, 0.0);
        $with = 0 === $missing ? null : $this->cut($h, $packed, $missing, $without[0] * (1 + Search::SAME));

        return $this->found($f, $without, $with, $missing, $packed);
    }

    /**
     * Hot loop: with n of weight and s in sum, and m and t of them on the left, a cut gains (n t − s m)² / (n m (n − m)). It is compared
     * without dividing.
     *
     * @param array<int, int> $h      by code, ascending, nothing at 0
     * @param int             $packed weight and outcomes of all
     * @param int             $start  what goes left besides
     * @param float           $bar    what has to be surpassed
     *
     * @return array{float, int, int, int} the gain times n, the code that is last on the left, the next, weight and outcomes on the left; code 0: none
     */
    private function cut(array $h, int $packed, int $start, float $bar): array
    {
        $leaf = $this->leaf;
        $mask = $this->mask;
        $shift = $this->shift;
        $n = $packed & $mask;
        $most = $n - $leaf;
        $all = (float) $n;
        $whole = (float) ($packed >> $shift);
        $best = 0.0;
        $cut = $next = $before = $under = 0;
        $acc = $start;
        foreach ($h as $k => $v) {
            if (0 === $v) {
                continue;
            }
            $left = $acc & $mask;
            if ($left >= $leaf && $before > 0) {
                if ($left > $most) {
                    break;
                }
                $d = $all * ($acc >> $shift) - $whole * $left;
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
            $acc += $v;
            $before = $k;
        }

        return [$best, $cut, $next, $under];
    }

    /**
     * @param array{float, int, int, int}  $without missing values on the right
     * @param ?array{float, int, int, int} $with    missing values on the left, better than without where it has a cut
     */
    public function found(int $f, array $without, ?array $with, int $missing, int $packed): ?Found
    {
        $n = $packed & $this->mask;
        $isLeft = null !== $with && $with[1] > 0;
        [$best, $cut, $next, $under] = $isLeft ? $with : $without;
        $apart = $missing & $this->mask;
        // Whether there is a value at all may tell the most.
        if ($apart >= $this->leaf && $n - $apart >= $this->leaf) {
            $d = (float) $n * ($missing >> $this->shift) - (float) ($packed >> $this->shift) * $apart;
            $score = $d * $d / ((float) $apart * ($n - $apart));
            if ($score > $best * (1 + Search::SAME)) {
                return Found::cut($f, $this->scale * $score / $n, \PHP_INT_MAX, 0, false, true);
            }
        }

        return 0 === $cut ? null : Found::cut($f, $this->scale * $best / $n, $cut, $next, 0 === $missing ? 2 * ($under & $this->mask) > $n : $isLeft, 0 !== $missing);
    }

    /**
     * Levels in the order of their mean outcome: the best set is one of those in this order (Fisher 1958; Breiman et al. 1984, theorem
     * 4.5). Missing is a level like the others.
     *
     * @param array<int, int> $h
     */
    public function levels(int $f, array $h, int $packed): ?Found
    {
        $n = $packed & $this->mask;
        $sum = $packed >> $this->shift;
        $means = [];
        foreach ($h as $k => $v) {
            if (0 !== $v) {
                $means[$k] = ($v >> $this->shift) / ($v & $this->mask);
            }
        }
        // Stable: of equal means the smaller code is first.
        asort($means);
        $most = $n - $this->leaf;
        $bar = $best = 0.0;
        $taken = $place = $acc = 0;
        foreach ($means as $k => $_) {
            $left = $acc & $this->mask;
            if ($left >= $this->leaf && $left <= $most) {
                $d = (float) $n * ($acc >> $this->shift) - (float) $sum * $left;
                $score = $d * $d / ((float) $left * ($n - $left));
                if ($score > $bar) {
                    $best = $score;
                    $bar = $score * (1 + Search::SAME);
                    $taken = $place;
                }
            }
            $acc += $h[$k];
            ++$place;
        }
        if (0 === $taken) {
            return null;
        }
        $order = array_keys($means);

        return Found::levels($f, $this->scale * $best / $n, \array_slice($order, 0, $taken), $order, array_map(fn (int $v): int => $v & $this->mask, $h));
    }
}
