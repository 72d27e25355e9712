<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

use Dokimos\Core\Progress;

/** What two columns do together beyond their curves: which pairs are worth it, by rows kept back, and what they add. */
final class Pairs
{
    private const PATIENCE = 10;
    /** Pairs are weighed on so many bags, and on at most so many rows of each. */
    private const WEIGHED_ON = 3;
    private const ROWS = 20_000;
    private const MOST = 8000;

    /**
     * The pairs that add most on rows that were not drawn: cells learned on the drawn rows, held back toward nothing.
     *
     * @param list<Bag>   $bags
     * @param list<Grid>  $grids by column
     * @param list<float> $worth of each column, to leave some out where there are too many pairs
     *
     * @return list<array{int, int, float}> columns and what is gained a row, the best first
     */
    public static function weighed(array $bags, array $grids, array $worth, int $kind, int $most, float $ridge): array
    {
        $columns = array_keys(array_filter($grids, static fn (Grid $g): bool => $g->size > 1));
        usort($columns, static fn (int $a, int $b): int => $worth[$b] <=> $worth[$a] ?: $a <=> $b);
        while (\count($columns) * (\count($columns) - 1) / 2 > self::MOST) {
            array_pop($columns);
        }
        sort($columns);
        $gains = $rows = [];
        foreach (\array_slice($bags, 0, self::WEIGHED_ON) as $bag) {
            $many = min(self::ROWS, \count($bag->y));
            $out = min(self::ROWS, \count($bag->outY));
            if (0 === $out) {
                continue;
            }
            $places = $outPlaces = [];
            foreach ($columns as $c) {
                $places[$c] = $grids[$c]->places(self::some($bag->codes($c), $many));
                $outPlaces[$c] = $grids[$c]->places(self::some($bag->outCodes($c), $out));
            }
            foreach (array_keys($bag->sums) as $class) {
                [$g, $h] = self::slopes($kind, self::someOf($bag->sums, $many), $class, self::some($bag->y, $many));
                [$og, $oh] = self::slopes($kind, self::someOf($bag->outSums, $out), $class, self::some($bag->outY, $out));
                foreach ($columns as $x => $a) {
                    for ($k = $x + 1, $m = \count($columns); $k < $m; ++$k) {
                        $b = $columns[$k];
                        $gain = self::gain(
                            $places[$a],
                            $places[$b],
                            $grids[$a]->size,
                            $grids[$b]->size,
                            $g,
                            $h,
                            $outPlaces[$a],
                            $outPlaces[$b],
                            $og,
                            $oh,
                            $ridge,
                        );
                        $gains[$a][$b] = ($gains[$a][$b] ?? 0.0) + $gain / $out;
                    }
                }
            }
        }
        $found = [];
        foreach ($gains as $a => $own) {
            foreach ($own as $b => $gain) {
                if ($gain > 0.0) {
                    $found[] = [$a, $b, $gain / self::WEIGHED_ON];
                }
            }
        }
        usort($found, static fn (array $p, array $q): int => $q[2] <=> $p[2] ?: [$p[0], $p[1]] <=> [$q[0], $q[1]]);

        return \array_slice($found, 0, $most);
    }

    /**
     * @template T
     *
     * @param list<T> $list
     *
     * @return list<T> evenly
     */
    private static function some(array $list, int $many): array
    {
        $n = \count($list);
        if ($n <= $many) {
            return $list;
        }
        $out = [];
        for ($i = 0; $i < $many; ++$i) {
            $out[] = $list[intdiv($i * $n, $many)];
        }

        return $out;
    }

    /**
     * @param list<list<float>> $lists
     *
     * @return list<list<float>>
     */
    private static function someOf(array $lists, int $many): array
    {
        return array_map(static fn (array $l): array => self::some($l, $many), $lists);
    }

    /**
     * @param list<list<float>> $sums
     * @param list<float>       $y
     *
     * @return array{list<float>, list<float>} slope, uphill, and curvature
     */
    private static function slopes(int $kind, array $sums, int $class, array $y): array
    {
        $g = $h = [];
        $shares = Slopes::MORE === $kind ? Slopes::shares($sums)[$class] : [];
        foreach ($y as $i => $truth) {
            if (Slopes::NUMBER === $kind) {
                $g[] = $truth - $sums[0][$i];
                $h[] = 1.0;
                continue;
            }
            $p = Slopes::MORE === $kind ? $shares[$i] : 1.0 / (1.0 + exp(-$sums[0][$i]));
            $g[] = (Slopes::MORE === $kind ? ($class === (int) $truth ? 1.0 : 0.0) : $truth) - $p;
            $h[] = $p * (1.0 - $p);
        }

        return [$g, $h];
    }

    /**
     * What cells learned on some rows gain on others, by the second order of the loss. Hot loop.
     *
     * @param list<int>   $a
     * @param list<int>   $b
     * @param list<float> $g
     * @param list<float> $h
     * @param list<int>   $oa
     * @param list<int>   $ob
     * @param list<float> $og
     * @param list<float> $oh
     */
    private static function gain(
        array $a,
        array $b,
        int $height,
        int $width,
        array $g,
        array $h,
        array $oa,
        array $ob,
        array $og,
        array $oh,
        float $ridge,
    ): float {
        $sg = $sh = array_fill(0, $height * $width, 0.0);
        foreach ($a as $i => $place) {
            $cell = $place * $width + $b[$i];
            $sg[$cell] += $g[$i];
            $sh[$cell] += $h[$i];
        }
        // What a column does alone is no matter of the pair: the means of rows and columns of cells are taken out.
        $value = self::pure(array_values($sg), array_values($sh), $height, $width, $ridge);
        $gain = 0.0;
        foreach ($oa as $i => $place) {
            $v = $value[$place * $width + $ob[$i]];
            $gain += $v * ($og[$i] - 0.5 * $oh[$i] * $v);
        }

        return $gain;
    }

    /**
     * @param list<float> $g
     * @param list<float> $h
     *
     * @return list<float>
     */
    private static function pure(array $g, array $h, int $height, int $width, float $ridge): array
    {
        $value = [];
        foreach ($g as $cell => $s) {
            $value[] = $s / ($h[$cell] + $ridge);
        }

        return Centered::of($value, $h, $height, $width, 2)->rest;
    }

    /**
     * Boosts pairs on what the curves of a bag leave over.
     *
     * @param list<array{int, int, float}> $pairs
     * @param list<Grid>                   $grids
     * @param list<bool>                   $orders
     *
     * @return list<list<list<float>>> per class and pair, what is added by cell
     */
    public static function boosted(
        Bag $bag,
        int $kind,
        array $pairs,
        array $grids,
        array $orders,
        PairStep $step,
        float $rate,
        int $most,
        Progress $progress,
    ): array {
        $slopes = new Slopes($kind, $bag->y, $bag->w, $bag->packing);
        $cells = $outCells = $tables = [];
        foreach ($pairs as $k => [$a, $b]) {
            $cells[$k] = self::cells($grids[$a]->places($bag->codes($a)), $grids[$b]->places($bag->codes($b)), $grids[$b]->size);
            $outCells[$k] = self::cells($grids[$a]->places($bag->outCodes($a)), $grids[$b]->places($bag->outCodes($b)), $grids[$b]->size);
            foreach (array_keys($bag->sums) as $class) {
                $tables[$class][$k] = array_fill(0, $grids[$a]->size * $grids[$b]->size, 0.0);
            }
        }
        [$sums, $out] = [$bag->sums, $bag->outSums];
        $best = $tables;
        $least = $bag->outLoss;
        for ($round = 1, $waited = 0; $round <= $most && $waited < self::PATIENCE; ++$round) {
            foreach (array_keys($sums) as $class) {
                // Pairs move by small steps: they hardly get in each other's way.
                [$packed, $g1, $h1] = $slopes->of($sums, $class);
                foreach ($pairs as $k => [$a, $b]) {
                    $histogram = array_fill(0, \count($tables[$class][$k]), 0);
                    foreach ($cells[$k] as $i => $cell) {
                        $histogram[$cell] += $packed[$i];
                    }
                    $move = $step->of(array_values($histogram), $grids[$b]->size, $g1, $h1, $orders[$a], $orders[$b], $rate);
                    if (null === $move) {
                        continue;
                    }
                    foreach ($cells[$k] as $i => $cell) {
                        $sums[$class][$i] += $move[$cell];
                    }
                    foreach ($outCells[$k] as $i => $cell) {
                        $out[$class][$i] += $move[$cell];
                    }
                    foreach ($move as $cell => $v) {
                        $tables[$class][$k][$cell] += $v;
                    }
                }
            }
            $loss = Slopes::loss($kind, array_map(array_values(...), $out), $bag->outY, $bag->outW);
            if ($loss < $least - 1e-6 * abs($least)) {
                [$best, $least, $waited] = [$tables, $loss, 0];
            } else {
                ++$waited;
            }
            $progress->report($round / $most);
        }

        return array_values(array_map(static fn (array $own): array => array_values(array_map(array_values(...), $own)), $best));
    }

    /**
     * @param list<int> $a
     * @param list<int> $b
     *
     * @return list<int>
     */
    private static function cells(array $a, array $b, int $width): array
    {
        $out = [];
        foreach ($a as $i => $place) {
            $out[] = $place * $width + $b[$i];
        }

        return $out;
    }
}
