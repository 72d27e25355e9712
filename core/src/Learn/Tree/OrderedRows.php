<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/**
 * Compares the cuts of a column that has far more codes than a node has rows, in the order of these rows: most of a histogram would be
 * empty. What is summed is weight and outcome of a row in one whole number, as PackedSearch has it.
 */
final readonly class OrderedRows
{
    /** Bits that a number has. */
    private const ROOM = 62;
    /** More rows in one heap are sorted. */
    private const HEAP = 32;

    private int $mask;
    /** Bits under a code in a key. */
    private int $low;
    /** Whether they hold weight and outcome of the row, or its place among those asked about. */
    private bool $told;

    /**
     * @param list<int> $packed weight and outcome of each row
     * @param int       $leaf   weight of a leaf, at least
     * @param int       $shift  the outcome begins at this bit
     * @param int       $code   the largest of any column
     */
    public function __construct(private array $packed, private int $leaf, private int $shift, int $code)
    {
        $this->mask = (1 << $shift) - 1;
        $most = self::bits([] === $packed ? 0 : max($packed));
        $this->told = $most + self::bits($code) <= self::ROOM;
        $this->low = $this->told ? $most : self::bits(\count($packed));
    }

    private static function bits(int $number): int
    {
        for ($bits = 1; $number >> $bits > 0; ++$bits) {
        }

        return $bits;
    }

    /**
     * Hot loop: rows by code, ascending. Codes are counted by their upper bits, laid into their places, and each put in among its
     * neighbors; where many fall together they are sorted at once.
     *
     * @param list<int>       $codes of every row, among others' in one number
     * @param int             $at    bit that they begin at
     * @param int             $of    mask of their bits
     * @param array<int, int> $rows  a list
     *
     * @return array{list<int>, int} of each row that has a value its code, and in the lower bits what tells its weight and outcome;
     *                               weight and outcomes of the others
     */
    public function keys(array $codes, int $at, int $of, array $rows, int $from, int $end): array
    {
        $a = $this->packed;
        $low = $this->low;
        $told = $this->told;
        $n = $end - $from;
        $least = \PHP_INT_MAX;
        $most = $missing = 0;
        $given = array_fill(0, $n, 0);
        for ($i = 0; $i < $n; ++$i) {
            $r = $rows[$from + $i];
            $k = $codes[$r] >> $at & $of;
            if ($k > $most) {
                $most = $k;
            }
            if ($k < $least) {
                if (0 === $k) {
                    $missing += $a[$r];
                    continue;
                }
                $least = $k;
            }
            $given[$i] = $k << $low | ($told ? $a[$r] : $i);
        }
        // About as many heaps as rows.
        $wide = $low;
        while ($most - $least >> $wide - $low > $n) {
            ++$wide;
        }
        $first = $most > 0 ? $least >> $wide - $low : 0;
        $heaps = array_fill(0, ($most >> $wide - $low) - $first + 2, 0);
        for ($i = 0; $i < $n; ++$i) {
            $key = $given[$i];
            if ($key > 0) {
                ++$heaps[($key >> $wide) - $first + 1];
            }
        }
        $many = $heap = 0;
        foreach ($heaps as $h => $v) {
            if ($v > $heap) {
                $heap = $v;
            }
            $many += $v;
            $heaps[$h] = $many;
        }
        $keys = array_fill(0, $many, 0);
        for ($i = 0; $i < $n; ++$i) {
            $key = $given[$i];
            if ($key > 0) {
                $keys[$heaps[($key >> $wide) - $first]++] = $key;
            }
        }
        if ($wide === $low) {
            return [array_values($keys), $missing];
        }
        if ($heap > self::HEAP) {
            sort($keys);

            return [$keys, $missing];
        }
        $below = (1 << $low) - 1;
        for ($i = 1; $i < $many; ++$i) {
            $key = $keys[$i];
            $bar = $key | $below;
            $j = $i;
            while ($j > 0 && $keys[$j - 1] > $bar) {
                $keys[$j] = $keys[$j - 1];
                --$j;
            }
            $keys[$j] = $key;
        }

        return [array_values($keys), $missing];
    }

    /**
     * Hot loop: cuts as PackedSearch compares them, of rows in order.
     *
     * @param list<int>       $keys   as keys() gives them
     * @param array<int, int> $rows   a list
     * @param int             $packed weight and outcome of all
     * @param int             $start  what goes left besides
     * @param float           $bar    what has to be surpassed
     *
     * @return array{float, int, int, int} the gain times n, the code that is last on the left, the next, weight and outcomes on the left;
     *                                     code 0: none
     */
    public function cut(array $keys, array $rows, int $from, int $packed, int $start, float $bar): array
    {
        $a = $this->packed;
        $leaf = $this->leaf;
        $mask = $this->mask;
        $shift = $this->shift;
        $low = $this->low;
        $below = (1 << $low) - 1;
        $told = $this->told;
        $n = $packed & $mask;
        $most = $n - $leaf;
        $all = (float) $n;
        $whole = (float) ($packed >> $shift);
        $best = 0.0;
        $cut = $next = $before = $under = 0;
        $acc = $start;
        foreach ($keys as $key) {
            $k = $key >> $low;
            if ($k !== $before) {
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
                $before = $k;
            }
            $acc += $told ? $key & $below : $a[$rows[$from + ($key & $below)]];
        }

        return [$best, $cut, $next, $under];
    }
}
