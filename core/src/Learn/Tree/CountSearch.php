<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** For more than two classes, entropy and gain ratio: the gain is a matter of the counts of each class on each side. */
final readonly class CountSearch extends ColumnSearch
{
    private const EVERY_SUBSET = 10;
    /** Up to so many rows are sorted; more fill a histogram. */
    private const SORTED = 64;

    /** How often a row counts takes so many bits of a key. */
    private const TIMES = 24;

    /** @var list<list<int>> for Gini of rows that count whole times: code and class of a row in one number */
    private array $coded;
    /** @var list<int> */
    private array $times;

    /**
     * @param ?Drawing         $drawing one cut per column is drawn instead of comparing all; null = all are compared
     * @param ?list<list<int>> $coded   as computed before on the same rows
     */
    public function __construct(private Cells $cells, private Criterion $criterion, private Limits $limits, private ?Drawing $drawing = null, ?array $coded = null)
    {
        $this->coded = $coded ?? self::coded($cells, $cells->isWhole() && Criterion::Gini === $criterion && null === $drawing ? $cells->codes : []);
        $this->times = $cells->times ?? ([] === $this->coded ? [] : array_values(array_fill(0, \count($cells->y), 1)));
    }

    /**
     * @param list<list<int>> $columns
     *
     * @return list<list<int>>
     */
    private static function coded(Cells $cells, array $columns): array
    {
        $coded = [];
        foreach ($columns as $column) {
            $own = [];
            foreach ($column as $i => $code) {
                $own[] = $code * $cells->classes + (int) $cells->y[$i];
            }
            $coded[] = $own;
        }

        return $coded;
    }

    public function on(Cells $drawn): self
    {
        return new self($drawn, $this->criterion, $this->limits, $this->drawing, $drawn->isWhole() ? $this->coded : null);
    }

    protected function best(int $f, array $rows, array $counts): ?Found
    {
        return [] !== $this->coded && null === $this->cells->levels[$f] ? $this->byGini($f, $rows, $counts) : $this->byCounts($f, $rows, $counts);
    }

    /**
     * For Gini of rows that count whole times, which is most of what forests do: counts move from right to left code by code, and the sums of their
     * squares with them. Hot loop; all numbers are whole.
     *
     * @param list<int>   $rows
     * @param list<float> $counts
     */
    private function byGini(int $f, array $rows, array $counts): ?Found
    {
        $classes = $this->cells->classes;
        $cy = $this->coded[$f];
        $times = $this->times;
        $at = $many = [];
        $seen = \count($rows);
        // A histogram of far more codes than rows would mostly count nothing.
        if ($seen <= self::SORTED || 2 * $seen < $this->cells->sizes[$f] * $classes) {
            $keys = [];
            foreach ($rows as $r) {
                $keys[] = $cy[$r] << self::TIMES | $times[$r];
            }
            sort($keys);
            $before = -1;
            $last = -1;
            $mask = (1 << self::TIMES) - 1;
            foreach ($keys as $key) {
                if ($key >> self::TIMES === $before) {
                    $many[$last] += $key & $mask;
                } else {
                    $at[] = $before = $key >> self::TIMES;
                    $many[] = $key & $mask;
                    ++$last;
                }
            }
        } else {
            $h = array_fill(0, ($this->cells->sizes[$f] + 1) * $classes, 0);
            foreach ($rows as $r) {
                $h[$cy[$r]] += $times[$r];
            }
            foreach ($h as $key => $count) {
                if (0 !== $count) {
                    $at[] = $key;
                    $many[] = $count;
                }
            }
        }
        $n = (int) array_sum($counts);
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

        return Found::cut($f, $best, $cut, $next, $missingLeft, $missing > 0);
    }

    /**
     * For entropy, gain ratio and more than two classes.
     *
     * @param list<int>   $rows
     * @param list<float> $counts
     */
    private function byCounts(int $f, array $rows, array $counts): ?Found
    {
        $total = $this->criterion->total($counts);
        $classes = $this->cells->classes;
        $c = $this->cells->codes[$f];
        $y = $this->cells->y;
        $weights = $this->cells->weights;
        $h = [];
        foreach ($rows as $r) {
            $k = $c[$r] * $classes + (int) $y[$r];
            $h[$k] = ($h[$k] ?? 0.0) + (null === $weights ? 1.0 : $weights[$r]);
        }
        ksort($h);
        $groups = [];
        foreach ($h as $k => $v) {
            $code = intdiv($k, $classes);
            $groups[$code] ??= array_fill(0, $classes, 0.0);
            $groups[$code][$k % $classes] = $v;
        }
        $sums = array_map(array_sum(...), $groups);
        if (null !== $this->cells->levels[$f]) {
            [$gain, $left] = $this->bestSet($groups, $counts, $total);

            return null === $left ? null : Found::levels($f, $gain, $left, array_keys($groups), $sums);
        }
        $missing = $groups[0] ?? null;
        unset($groups[0]);
        $cutAt = $this->drawing?->cut($sums);
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

        return Found::cut($f, $best, $cut, $next, null === $missing ? Drawing::isLargerLeft($sums, $cut, array_sum($sums)) : $missingLeft, null !== $missing);
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
        $zero = array_fill(0, $this->cells->classes, 0.0);
        if ($n <= self::EVERY_SUBSET && $this->cells->classes > 2) {
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
        for ($class = 2 === $this->cells->classes ? 1 : 0; $class < $this->cells->classes; ++$class) {
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
}
