<?php

declare(strict_types=1);

namespace Dokimos\Core\Blend;

/**
 * How much each of several answers counts in their mean: weights of 0 and more that add to 1, at which the mean loses least. Of classes the
 * loss is the negative logarithm of the chance of what came, of a number the squared error. Newton on the answers used, one taken in or
 * out at a time; the least is unique where no answer is a mean of others. Definition: docs/methods/blend.md.
 */
final readonly class BlendWeights
{
    private const STEPS = 500;
    private const ENOUGH = 1e-13;
    /** Chances are held off 0 before their logarithm is taken. */
    private const LEAST = 1e-15;

    /**
     * @param list<float> $weights of each answer
     * @param list<float> $pull    slope of the loss at each, less that of the mean: 0 where it counts, above 0 where it does not
     */
    private function __construct(public array $weights, public float $loss, public array $pull)
    {
    }

    /**
     * @param list<list<float>> $chances per answer, the chance it gave to what came
     * @param ?list<float>      $rows    weights of rows
     */
    public static function ofChances(array $chances, ?array $rows = null): self
    {
        $held = array_map(static fn (array $own): array => array_map(static fn (float $p): float => max(self::LEAST, $p), $own), $chances);

        return self::least(
            $held,
            static fn (float $q): array => [-log($q), -1.0 / $q, 1.0 / ($q * $q)],
            array_fill(0, \count($held[0] ?? []), 0.0),
            $rows,
        );
    }

    /**
     * @param list<list<float>> $numbers per answer, one a row
     * @param list<float>       $came
     * @param ?list<float>      $rows
     */
    public static function ofNumbers(array $numbers, array $came, ?array $rows = null): self
    {
        return self::least($numbers, static fn (float $q, float $y): array => [($q - $y) ** 2, 2.0 * ($q - $y), 2.0], $came, $rows);
    }

    /**
     * @param list<list<float>>                                  $answers
     * @param \Closure(float, float): array{float, float, float} $of      loss of a mean, and its first and second slope
     * @param list<float>                                        $came
     * @param ?list<float>                                       $rows
     */
    private static function least(array $answers, \Closure $of, array $came, ?array $rows): self
    {
        $m = \count($answers);
        $w = array_fill(0, $m, 1.0 / max(1, $m));
        $free = array_fill(0, $m, true);
        [$loss, $g, $h] = self::at($answers, $w, $of, $came, $rows);
        for ($step = 0; $step < self::STEPS; ++$step) {
            $mean = 0.0;
            foreach ($w as $j => $v) {
                $mean += $v * $g[$j];
            }
            $used = array_keys(array_filter($free));
            $off = 0.0;
            foreach ($used as $j) {
                $off = max($off, abs($g[$j] - $mean));
            }
            if ($off <= self::ENOUGH * (1 + abs($mean))) {
                // At the least of those used: is there one that would help?
                $best = null;
                foreach ($free as $j => $isFree) {
                    if (!$isFree && $g[$j] < $mean - 1e-12 * (1 + abs($mean)) && (null === $best || $g[$j] < $g[$best])) {
                        $best = $j;
                    }
                }
                if (null === $best) {
                    break;
                }
                $free[$best] = true;
                continue;
            }
            $direction = self::direction($used, $g, $h);
            // No farther than where one of them counts nothing.
            $size = 1.0;
            $ends = null;
            foreach ($used as $i => $j) {
                if ($direction[$i] < 0.0 && $w[$j] + $size * $direction[$i] < 0.0) {
                    [$size, $ends] = [$w[$j] / -$direction[$i], $j];
                }
            }
            if ($size <= 0.0 && null !== $ends) {
                $free[$ends] = false;
                continue;
            }
            $moved = false;
            for ($half = 0; $half < 60; ++$half) {
                $next = $w;
                foreach ($used as $i => $j) {
                    $next[$j] = max(0.0, $w[$j] + $size * $direction[$i]);
                }
                if (0 === $half && null !== $ends) {
                    $next[$ends] = 0.0;
                }
                $all = array_sum($next);
                $next = array_map(static fn (float $v): float => $v / $all, $next);
                $next = array_values($next);
                $now = self::at($answers, $next, $of, $came, $rows);
                if ($now[0] <= $loss + 1e-15 * abs($loss)) {
                    $moved = $now[0] < $loss || $next !== $w;
                    if (0 === $half && null !== $ends) {
                        $free[$ends] = false;
                    }
                    [$w, [$loss, $g, $h]] = [$next, $now];
                    break;
                }
                $size /= 2;
            }
            if (!$moved) {
                break;
            }
        }
        $mean = 0.0;
        foreach ($w as $j => $v) {
            $mean += $v * $g[$j];
        }

        return new self($w, $loss, array_map(static fn (float $v, float $s): float => $v > 0.0 ? 0.0 : $s - $mean, $w, $g));
    }

    /**
     * Mean loss, its slope and its curvature at weights. Hot loop.
     *
     * @param list<list<float>>                                  $answers
     * @param list<float>                                        $w
     * @param \Closure(float, float): array{float, float, float} $of
     * @param list<float>                                        $came
     * @param ?list<float>                                       $rows
     *
     * @return array{float, list<float>, list<list<float>>}
     */
    private static function at(array $answers, array $w, \Closure $of, array $came, ?array $rows): array
    {
        $m = \count($answers);
        $loss = $all = 0.0;
        $g = array_fill(0, $m, 0.0);
        $h = array_fill(0, $m, $g);
        foreach ($came as $i => $y) {
            $weight = $rows[$i] ?? 1.0;
            $q = 0.0;
            foreach ($w as $j => $v) {
                $q += $v * $answers[$j][$i];
            }
            [$l, $first, $second] = $of($q, $y);
            $all += $weight;
            $loss += $weight * $l;
            for ($j = 0; $j < $m; ++$j) {
                $a = $weight * $answers[$j][$i];
                $g[$j] += $first * $a;
                for ($k = 0; $k <= $j; ++$k) {
                    $h[$j][$k] += $second * $a * $answers[$k][$i];
                }
            }
        }
        for ($j = 0; $j < $m; ++$j) {
            for ($k = 0; $k < $j; ++$k) {
                $h[$k][$j] = $h[$j][$k];
            }
        }
        $all = max(1e-300, $all);

        return [
            $loss / $all,
            array_values(array_map(static fn (float $v): float => $v / $all, $g)),
            array_map(static fn (array $r): array => array_values(array_map(static fn (float $v): float => $v / $all, $r)), $h),
        ];
    }

    /**
     * The Newton step among those used that leaves their sum as it is.
     *
     * @param list<int>         $used
     * @param list<float>       $g
     * @param list<list<float>> $h
     *
     * @return list<float>
     */
    private static function direction(array $used, array $g, array $h): array
    {
        $n = \count($used);
        $scale = 1e-12 * max([1e-300, ...array_map(static fn (int $j): float => $h[$j][$j], $used)]);
        $matrix = [];
        foreach ($used as $i => $j) {
            foreach ($used as $k) {
                $matrix[$i][] = $h[$j][$k] + ($j === $k ? $scale : 0.0);
            }
            $matrix[$i][] = 1.0;
            $matrix[$i][] = -$g[$j];
        }
        $matrix[] = [...array_fill(0, $n, 1.0), 0.0, 0.0];

        return \array_slice(self::solved($matrix), 0, $n);
    }

    /**
     * Elimination with the largest pivot of each column.
     *
     * @param array<list<float>> $a rows with their right side last
     *
     * @return list<float>
     */
    private static function solved(array $a): array
    {
        $n = \count($a);
        for ($c = 0; $c < $n; ++$c) {
            $best = $c;
            for ($r = $c + 1; $r < $n; ++$r) {
                $best = abs($a[$r][$c]) > abs($a[$best][$c]) ? $r : $best;
            }
            [$a[$c], $a[$best]] = [$a[$best], $a[$c]];
            if (abs($a[$c][$c]) < 1e-300) {
                continue;
            }
            for ($r = 0; $r < $n; ++$r) {
                if ($r !== $c && 0.0 !== $a[$r][$c]) {
                    $f = $a[$r][$c] / $a[$c][$c];
                    for ($k = $c; $k <= $n; ++$k) {
                        $a[$r][$k] -= $f * $a[$c][$k];
                    }
                }
            }
        }
        $out = [];
        for ($c = 0; $c < $n; ++$c) {
            $out[] = abs($a[$c][$c]) < 1e-300 ? 0.0 : $a[$c][$n] / $a[$c][$c];
        }

        return $out;
    }
}
