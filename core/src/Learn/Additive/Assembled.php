<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

use Dokimos\Core\Design\Codes;

/**
 * Bags put together: curves are their mean, with the spread over them; what a pair says of one column alone goes to its curve, and every
 * curve is moved so that it adds nothing on average over training rows.
 */
final readonly class Assembled
{
    private const TURNS = 20;

    /**
     * @param list<Curve> $curves
     * @param list<Pair>  $pairs
     * @param list<float> $starts
     */
    private function __construct(public array $curves, public array $pairs, public array $starts)
    {
    }

    /**
     * @param list<Bag>                     $bags
     * @param list<list<list<list<float>>>> $tables per bag, class and pair, by cell
     * @param list<array{int, int, float}>  $pairs
     * @param list<Grid>                    $grids
     * @param array<int, array<float>>      $counts weight of training rows by column and code
     * @param list<list<int>>               $cells  codes of training rows
     * @param ?list<float>                  $w
     * @param list<string>                  $dates  columns of dates
     * @param list<float>                   $starts
     */
    public static function of(
        Codes $codes,
        array $bags,
        array $tables,
        array $pairs,
        array $grids,
        array $counts,
        array $cells,
        ?array $w,
        array $dates,
        array $starts,
    ): self {
        $classes = \count($starts);
        $adds = $spread = [];
        foreach (array_keys($codes->columns) as $f) {
            for ($class = 0; $class < $classes; ++$class) {
                $own = array_map(static fn (Bag $b): array => $b->curves[$class][$f], $bags);
                [$adds[$class][$f], $spread[$class][$f]] = self::mean($own, $counts[$f]);
            }
        }
        $found = [];
        foreach ($pairs as $k => [$a, $b]) {
            [$height, $width] = [$grids[$a]->size, $grids[$b]->size];
            $rows = array_fill(0, $height * $width, 0.0);
            [$first, $second] = [$grids[$a]->places($cells[$a]), $grids[$b]->places($cells[$b])];
            foreach ($first as $i => $place) {
                $rows[$place * $width + $second[$i]] += $w[$i] ?? 1.0;
            }
            $own = [];
            $carries = 0.0;
            for ($class = 0; $class < $classes; ++$class) {
                $table = array_fill(0, $height * $width, 0.0);
                foreach ($tables as $of) {
                    foreach ($of[$class][$k] as $cell => $v) {
                        $table[$cell] += $v / \count($tables);
                    }
                }
                $centered = Centered::of($table, $rows, $height, $width, self::TURNS);
                foreach ($grids[$a]->groups as $code => $group) {
                    $adds[$class][$a][$code] += $centered->first[$group];
                }
                foreach ($grids[$b]->groups as $code => $group) {
                    $adds[$class][$b][$code] += $centered->second[$group];
                }
                $own[] = $centered->rest;
                $carries += array_sum(array_map(abs(...), $centered->rest));
            }
            if ($carries > 1e-9) {
                $found[] = new Pair($a, $b, $grids[$a], $grids[$b], $own, array_values($rows));
            }
        }
        $curves = [];
        foreach (array_keys($codes->columns) as $f) {
            $own = [];
            $moves = 0.0;
            for ($class = 0; $class < $classes; ++$class) {
                $sum = $all = 0.0;
                foreach ($counts[$f] as $code => $n) {
                    $sum += $n * $adds[$class][$f][$code];
                    $all += $n;
                }
                $mean = $sum / max(1e-300, $all);
                $starts[$class] += $mean;
                // What training rows never had adds nothing.
                $own[] = array_values(array_map(
                    static fn (float $v, float $n, int $code): float => 0 === $code && 0.0 === $n ? 0.0 : $v - $mean,
                    $adds[$class][$f],
                    $counts[$f],
                    array_keys($counts[$f]),
                ));
                $moves += array_sum(array_map(abs(...), $own[$class]));
            }
            if ($moves > 1e-9) {
                $scale = $codes->scales[$f];
                $ends = isset($scale['low'], $scale['high']) && [] !== $scale['low'] ? [
                    $scale['low'][0],
                    $scale['high'][\count($scale['high']) - 1],
                ] : null;
                $curves[] = new Curve(
                    $f,
                    $own,
                    array_values(array_map(static fn (array $s): array => $s[$f], $spread)),
                    array_values($counts[$f]),
                    $ends,
                    \in_array($codes->columns[$f], $dates, true),
                );
            }
        }

        return new self($curves, $found, array_values($starts));
    }

    /**
     * @param list<list<float>> $curves of bags
     * @param array<float>      $counts
     *
     * @return array{list<float>, list<float>} mean, and standard deviation of what bags add, each moved to add nothing on average
     */
    private static function mean(array $curves, array $counts): array
    {
        $all = max(1e-300, array_sum($counts));
        $bags = \count($curves);
        $size = \count($counts);
        $sums = $squares = $plain = array_fill(0, $size, 0.0);
        foreach ($curves as $curve) {
            $level = 0.0;
            foreach ($counts as $code => $n) {
                $level += $n * $curve[$code] / $all;
            }
            foreach ($curve as $code => $v) {
                $plain[$code] += $v;
                $sums[$code] += $v - $level;
                $squares[$code] += ($v - $level) ** 2;
            }
        }
        $spread = [];
        foreach ($sums as $code => $sum) {
            $spread[] = $bags > 1 ? sqrt(max(0.0, ($squares[$code] - $sum * $sum / $bags) / ($bags - 1))) : 0.0;
        }

        return [array_values(array_map(static fn (float $v): float => $v / $bags, $plain)), $spread];
    }
}
