<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Neighbors;

/**
 * Finds the training rows nearest to a record, exactly: blocks of rows are gone through from the likeliest on, five numbers at a time, and
 * rows that are farther already than the last one kept leave early.
 */
final class Nearest
{
    private const BLOCK = 4096;
    /** Sums in another order than that of the inputs are off by less. */
    private const SLACK = 1e-9;

    /** @var list<list<list<float>>> per block and column */
    private array $blocks = [];
    /** @var list<array<int, float>> per block the mean of each number */
    private array $means = [];
    /** @var list<int> columns of numbers of which no training value is missing, then the other numbers, then categories */
    private array $order = [];
    private int $whole = 0;
    private int $numbers = 0;
    /** @var list<int> columns in the order of the inputs */
    private array $asGiven = [];

    /** @param list<list<float>> $values per column, one a training row, as Space::of() gives them */
    public function __construct(private readonly Space $space, private readonly array $values)
    {
        $whole = $some = $categories = [];
        foreach ($values as $c => $column) {
            if (!$space->isNumber($c)) {
                $categories[] = $c;
            } elseif ([] === array_filter($column, is_nan(...))) {
                $whole[] = $c;
            } else {
                $some[] = $c;
            }
        }
        $this->order = [...$whole, ...$some, ...$categories];
        $this->whole = \count($whole);
        $this->numbers = \count($whole) + \count($some);
        $places = $space->places;
        asort($places);
        $this->asGiven = array_keys($places);
        $n = \count($values[0] ?? []);
        for ($from = 0; $from < $n; $from += self::BLOCK) {
            $own = $means = [];
            foreach ($this->order as $k => $c) {
                $part = \array_slice($values[$c], $from, self::BLOCK);
                if ($k < $this->numbers) {
                    $sd = $space->sd($c);
                    $part = array_map(static fn (float $v): float => $v / $sd, $part);
                }
                if ($k < $this->whole) {
                    $means[$k] = array_sum($part) / \count($part);
                }
                $own[] = $part;
            }
            $this->blocks[] = $own;
            $this->means[] = $means;
        }
    }

    /**
     * @param list<float> $asked one value per column, as Space::of() gives them
     * @param int         $many  how many of the nearest
     *
     * @return array{list<int>, list<float>} places of training rows and their distances, nearest first; of equal ones the earlier row first
     */
    public function of(array $asked, int $many): array
    {
        $q = [];
        foreach ($this->order as $k => $c) {
            $q[] = $k < $this->numbers ? $asked[$c] / $this->space->sd($c) : $asked[$c];
        }
        $limit = \INF;
        $found = [];
        $held = 0;
        foreach ($this->inTurn($q) as $block) {
            $from = $block * self::BLOCK;
            foreach ($this->within($this->blocks[$block], $q, $limit) as $row => $sum) {
                $found[$from + $row] = $sum;
                ++$held;
            }
            if ($held > 3 * $many || ($held >= $many && \INF === $limit)) {
                [$found, $limit] = self::trimmed($found, $many);
                $held = \count($found);
            }
        }

        return $this->exact($found, $asked, $many);
    }

    /**
     * @param list<float> $q
     *
     * @return list<int> blocks, the nearest by its mean first
     */
    private function inTurn(array $q): array
    {
        $far = [];
        foreach ($this->means as $block => $means) {
            $sum = 0.0;
            foreach ($means as $k => $mean) {
                $d = $q[$k] - $mean;
                $sum += $d === $d ? $d * $d : 1.0;
            }
            $far[$block] = $sum;
        }
        asort($far, \SORT_NUMERIC);

        return array_keys($far);
    }

    /**
     * @param array<int, float> $found
     *
     * @return array{array<int, float>, float} those that may still be among the nearest, and how far that is
     */
    private static function trimmed(array $found, int $many): array
    {
        $sums = array_values($found);
        sort($sums, \SORT_NUMERIC);
        $limit = ($sums[$many - 1] ?? \INF) * (1 + self::SLACK) + 1e-300;

        return [array_filter($found, static fn (float $sum): bool => $sum <= $limit), $limit];
    }

    /**
     * Hot loop.
     *
     * @param list<list<float>> $block
     * @param list<float>       $q
     *
     * @return array<int, float> squared distance of rows of the block that are within the limit
     */
    private function within(array $block, array $q, float $limit): array
    {
        $kept = null;
        $whole = $this->whole;
        $k = 0;
        // Where the record lacks a number every row is as far.
        $always = 0.0;
        $use = [];
        for (; $k < $whole; ++$k) {
            if ($q[$k] === $q[$k]) {
                $use[] = $k;
            } else {
                $always += 1.0;
            }
        }
        $u = 0;
        $n = \count($use);
        if ($n >= 10) {
            $kept = self::ten($block, $q, $use, $limit - $always);
            if ($always > 0.0) {
                $kept = array_map(static fn (float $s): float => $s + $always, $kept);
            }
            $u = 10;
        }
        for (; $n - $u >= 5; $u += 5) {
            [$a, $b, $c, $d, $e] = [
                $block[$use[$u]],
                $block[$use[$u + 1]],
                $block[$use[$u + 2]],
                $block[$use[$u + 3]],
                $block[$use[$u + 4]],
            ];
            [$qa, $qb, $qc, $qd, $qe] = [$q[$use[$u]], $q[$use[$u + 1]], $q[$use[$u + 2]], $q[$use[$u + 3]], $q[$use[$u + 4]]];
            $next = [];
            if (null === $kept) {
                $room = $limit - $always;
                foreach ($a as $i => $v) {
                    $x = $v - $qa;
                    $s = $x * $x;
                    $x = $b[$i] - $qb;
                    $s += $x * $x;
                    $x = $c[$i] - $qc;
                    $s += $x * $x;
                    $x = $d[$i] - $qd;
                    $s += $x * $x;
                    $x = $e[$i] - $qe;
                    $s += $x * $x;
                    if ($s <= $room) {
                        $next[$i] = $s + $always;
                    }
                }
            } else {
                foreach ($kept as $i => $s) {
                    $x = $a[$i] - $qa;
                    $s += $x * $x;
                    $x = $b[$i] - $qb;
                    $s += $x * $x;
                    $x = $c[$i] - $qc;
                    $s += $x * $x;
                    $x = $d[$i] - $qd;
                    $s += $x * $x;
                    $x = $e[$i] - $qe;
                    $s += $x * $x;
                    if ($s <= $limit) {
                        $next[$i] = $s;
                    }
                }
            }
            $kept = $next;
        }
        if (null === $kept) {
            $kept = [] === $block ? [] : array_fill(0, \count($block[0]), $always);
        }
        for (; $u < $n; ++$u) {
            $kept = self::further($kept, $block[$use[$u]], $q[$use[$u]], $limit);
        }
        for ($k = $whole, $all = \count($this->order); $k < $all; ++$k) {
            $kept = $k < $this->numbers ? self::further($kept, $block[$k], $q[$k], $limit) : self::unlike($kept, $block[$k], $q[$k], $limit);
        }

        return $kept;
    }

    /**
     * The first ten numbers at once: most rows leave half way. Hot loop.
     *
     * @param list<list<float>> $block
     * @param list<float>       $q
     * @param list<int>         $use
     *
     * @return array<int, float>
     */
    private static function ten(array $block, array $q, array $use, float $limit): array
    {
        [$a, $b, $c, $d, $e] = [$block[$use[0]], $block[$use[1]], $block[$use[2]], $block[$use[3]], $block[$use[4]]];
        [$f, $g, $h, $k, $l] = [$block[$use[5]], $block[$use[6]], $block[$use[7]], $block[$use[8]], $block[$use[9]]];
        [$qa, $qb, $qc, $qd, $qe] = [$q[$use[0]], $q[$use[1]], $q[$use[2]], $q[$use[3]], $q[$use[4]]];
        [$qf, $qg, $qh, $qk, $ql] = [$q[$use[5]], $q[$use[6]], $q[$use[7]], $q[$use[8]], $q[$use[9]]];
        $kept = [];
        foreach ($a as $i => $v) {
            $x = $v - $qa;
            $s = $x * $x;
            $x = $b[$i] - $qb;
            $s += $x * $x;
            $x = $c[$i] - $qc;
            $s += $x * $x;
            $x = $d[$i] - $qd;
            $s += $x * $x;
            $x = $e[$i] - $qe;
            $s += $x * $x;
            if ($s > $limit) {
                continue;
            }
            $x = $f[$i] - $qf;
            $s += $x * $x;
            $x = $g[$i] - $qg;
            $s += $x * $x;
            $x = $h[$i] - $qh;
            $s += $x * $x;
            $x = $k[$i] - $qk;
            $s += $x * $x;
            $x = $l[$i] - $ql;
            $s += $x * $x;
            if ($s <= $limit) {
                $kept[$i] = $s;
            }
        }

        return $kept;
    }

    /**
     * @param array<int, float> $kept
     * @param list<float>       $column
     *
     * @return array<int, float>
     */
    private static function further(array $kept, array $column, float $q, float $limit): array
    {
        $next = [];
        foreach ($kept as $i => $s) {
            $x = $column[$i] - $q;
            $s += $x === $x ? $x * $x : 1.0;
            if ($s <= $limit) {
                $next[$i] = $s;
            }
        }

        return $next;
    }

    /**
     * @param array<int, float> $kept
     * @param list<float>       $column
     *
     * @return array<int, float>
     */
    private static function unlike(array $kept, array $column, float $q, float $limit): array
    {
        $next = [];
        foreach ($kept as $i => $s) {
            if ($column[$i] !== $q) {
                $s += 1.0;
                if ($s > $limit) {
                    continue;
                }
            }
            $next[$i] = $s;
        }

        return $next;
    }

    /**
     * Distances as they are defined, in the order of the inputs.
     *
     * @param array<int, float> $found
     * @param list<float>       $asked
     *
     * @return array{list<int>, list<float>}
     */
    private function exact(array $found, array $asked, int $many): array
    {
        [$found] = self::trimmed($found, $many);
        ksort($found);
        $distances = [];
        foreach ($found as $row => $_) {
            $sum = 0.0;
            foreach ($this->asGiven as $c) {
                if ($this->space->isNumber($c)) {
                    $x = ($asked[$c] - $this->values[$c][$row]) / $this->space->sd($c);
                    $sum += $x === $x ? $x ** 2 : 1.0;
                } else {
                    $sum += $asked[$c] === $this->values[$c][$row] ? 0.0 : 1.0;
                }
            }
            $distances[$row] = sqrt($sum);
        }
        // The sort is stable: of equal ones the earlier row stays first.
        asort($distances, \SORT_NUMERIC);
        $distances = \array_slice($distances, 0, $many, true);

        return [array_keys($distances), array_values($distances)];
    }
}
