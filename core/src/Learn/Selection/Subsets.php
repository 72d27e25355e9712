<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Selection;

use Dokimos\Core\Math\Cholesky;

/**
 * Branch and bound over groups of terms: of each size, the groups that cost least, which is what they leave of the outcome's squares and a
 * price for each term. Groups are taken out of the full model one after the other; what no longer can be among the best is not followed,
 * since leaving out more only leaves more (Furnival and Wilson 1974). Definition: docs/methods/selection.md.
 */
final class Subsets
{
    /** @var array<int, list<array{float, int}>> by size: what it costs, and the groups as bits, best first */
    private array $best = [];
    /** @var array<int, list<int>> by place and number: the fewest terms that so many of the groups from there on have */
    private array $fewest = [];

    /** @param list<int> $widths terms of each group, in the order of the search */
    private function __construct(private readonly array $widths, private readonly int $keep, private readonly float $price)
    {
        for ($from = 0, $p = \count($widths); $from <= $p; ++$from) {
            $own = \array_slice($widths, $from);
            sort($own);
            $sums = [0];
            foreach ($own as $k => $width) {
                $sums[] = $sums[$k] + $width;
            }
            $this->fewest[] = $sums;
        }
    }

    /**
     * @param list<list<float>> $products  X'WX of centered terms, symmetric and of full rank
     * @param list<list<float>> $responses X'Wy of each response
     * @param float             $total     Σ y'Wy over the responses
     * @param list<list<int>>   $groups    places of the terms that enter and leave together
     * @param int               $keep      subsets of each size
     * @param float             $price     of a term, in the unit of what is left; 0 where all groups have as many
     *
     * @return list<list<array{cost: float, groups: list<int>}>> by size from none to all, best first
     */
    public static function ranked(array $products, array $responses, float $total, array $groups, int $keep, float $price = 0.0): array
    {
        if ([] === $groups) {
            return [[['cost' => $total, 'groups' => []]]];
        }
        $inverse = Cholesky::of($products)->inverse();
        $slopes = [];
        $left = $total;
        foreach ($responses as $response) {
            $own = [];
            foreach ($inverse as $i => $row) {
                $sum = 0.0;
                foreach ($response as $j => $v) {
                    $sum += $row[$j] * $v;
                }
                $own[] = $sum;
                $left -= $sum * $response[$i];
            }
            $slopes[] = $own;
        }
        // What matters most is taken out first: the largest branches are then those that are soonest given up.
        $costs = [];
        foreach ($groups as $g => $own) {
            [$v, $b] = self::part($inverse, $slopes, $own);
            $costs[$g] = self::without($v, $b, \count($own))[2];
        }
        arsort($costs);
        $order = array_keys($costs);
        [$v, $b] = self::part($inverse, $slopes, array_merge(...array_map(static fn (int $g): array => $groups[$g], $order)));
        $search = new self(array_map(static fn (int $g): int => \count($groups[$g]), $order), $keep, $price);
        $terms = \count($products);
        $search->keep(\count($groups), $left + $price * $terms, (1 << \count($groups)) - 1);
        $search->follow($v, $b, $left, (1 << \count($groups)) - 1, 0, \count($groups), $terms, 0);
        ksort($search->best);

        return array_map(static fn (array $own): array => array_map(static function (array $one) use ($order): array {
            $bits = $one[1];
            $found = array_values(array_filter($order, static fn (int $place): bool => 1 === ($bits >> $place & 1), \ARRAY_FILTER_USE_KEY));
            sort($found);

            return ['cost' => $one[0], 'groups' => $found];
        }, $own), array_values($search->best));
    }

    /**
     * @param list<list<float>> $v
     * @param list<list<float>> $b
     * @param list<int>         $terms
     *
     * @return array{list<list<float>>, list<list<float>>}
     */
    private static function part(array $v, array $b, array $terms): array
    {
        return [array_map(static fn (int $i): array => self::at($v[$i], $terms), $terms), array_map(static fn (array $own): array => self::at($own, $terms), $b)];
    }

    /**
     * @param list<float> $list
     * @param list<int>   $places
     *
     * @return list<float>
     */
    private static function at(array $list, array $places): array
    {
        return array_map(static fn (int $j): float => $list[$j], $places);
    }

    /**
     * The same with the first terms taken out, and what that leaves more.
     *
     * @param list<list<float>> $v    (X'WX)⁻¹ of the terms still in
     * @param list<list<float>> $b    their coefficients, by response
     * @param int               $many how many are taken out
     *
     * @return array{list<list<float>>, list<list<float>>, float}
     */
    private static function without(array $v, array $b, int $many): array
    {
        $more = 0.0;
        for ($t = 0; $t < $many; ++$t) {
            $row = array_shift($v);
            \assert(null !== $row);
            $pivot = array_shift($row);
            foreach ($b as $k => $own) {
                $gone = array_shift($own);
                $more += $gone * $gone / $pivot;
                $by = $gone / $pivot;
                foreach ($row as $i => $r) {
                    $own[$i] -= $r * $by;
                }
                $b[$k] = $own;
            }
            foreach ($v as $i => $own) {
                $by = array_shift($own) / $pivot;
                foreach ($row as $j => $r) {
                    $own[$j] -= $r * $by;
                }
                $v[$i] = $own;
            }
        }

        /** @var list<list<float>> $v */
        /** @var list<list<float>> $b */
        return [$v, $b, $more];
    }

    /**
     * @param list<list<float>> $v     of the groups from $from on
     * @param list<list<float>> $b
     * @param int               $from  groups before it stay
     * @param int               $size  groups still in
     * @param int               $terms of them
     * @param int               $kept  terms of those before $from
     */
    private function follow(array $v, array $b, float $left, int $bits, int $from, int $size, int $terms, int $kept): void
    {
        $starts = [0];
        for ($g = $from, $p = \count($this->widths); $g < $p; ++$g) {
            $starts[] = $starts[$g - $from] + $this->widths[$g];
        }
        for ($g = $p - 1; $g >= $from; --$g) {
            $at = $starts[$g - $from];
            $width = $this->widths[$g];
            // Of this group alone first: most are given up here.
            $own = array_map(static fn (array $row): array => \array_slice($row, $at, $width), \array_slice($v, $at, $width));
            $less = $left + self::without($own, array_map(static fn (array $row): array => \array_slice($row, $at, $width), $b), $width)[2];
            $rest = $bits & ~(1 << $g);
            $this->keep($size - 1, $less + $this->price * ($terms - $width), $rest);
            // Those between $from and this one stay as well.
            $stay = $kept + $starts[$g - $from];
            if ($g < $p - 1 && $this->hopes($less, $size - 2, $g + 1, $stay)) {
                [$smaller, $slopes] = self::without(array_map(static fn (array $row): array => \array_slice($row, $at), \array_slice($v, $at)), array_map(static fn (array $row): array => \array_slice($row, $at), $b), $width);
                $this->follow($smaller, $slopes, $less, $rest, $g + 1, $size - 1, $terms - $width, $stay);
            }
        }
    }

    /**
     * Whether a subset of at most this many groups, the terms kept and some of the groups from $from on, could still be among the best
     * when it leaves at least $left.
     */
    private function hopes(float $left, int $size, int $from, int $kept): bool
    {
        // At $size all but one of them are still in, and so on down to none.
        for ($in = \count($this->fewest[$from]) - 2; $in >= 0; --$in, --$size) {
            if (!isset($this->best[$size][$this->keep - 1]) || $left + $this->price * ($kept + $this->fewest[$from][$in]) < $this->best[$size][$this->keep - 1][0]) {
                return true;
            }
        }

        return false;
    }

    private function keep(int $size, float $cost, int $bits): void
    {
        $list = $this->best[$size] ?? [];
        $at = \count($list);
        while ($at > 0 && $cost < $list[$at - 1][0]) {
            --$at;
        }
        if ($at < $this->keep) {
            array_splice($list, $at, 0, [[$cost, $bits]]);
            $this->best[$size] = \array_slice($list, 0, $this->keep);
        }
    }
}
