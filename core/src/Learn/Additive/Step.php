<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

use Dokimos\Core\Learn\Tree\Packing;

/** One small step of a curve: its codes in a few stretches, each moved as far as its slope and curvature have it. */
final readonly class Step
{
    /**
     * @param float $rows   of a stretch, at least
     * @param int   $leaves stretches, at most
     * @param float $ridge  added to the curvature of each
     * @param float $gain   that a cut is worth at least: twice what it adds to the logarithm of the likelihood, about
     */
    public function __construct(
        private Packing $packing,
        private float $rows,
        private int $leaves,
        private float $ridge,
        private float $gain,
    ) {
    }

    /**
     * @param list<int> $histogram slope, curvature and count by code, packed; the first is that of missing values
     * @param float     $g1        what one step of the slope stands for
     * @param float     $h1        and one of the curvature
     * @param bool      $isOrder   whether codes are in an order; levels are put in that of their slopes
     * @param int       $rising    1 = the curve may only rise, -1 = only fall, 0 = either
     * @param float     $rate      share of the step that is taken
     *
     * @return ?list<float> what is added by code; null where nothing is gained
     */
    public function of(array $histogram, float $g1, float $h1, bool $isOrder, int $rising, float $rate): ?array
    {
        $shift = $this->packing->gradientShift;
        $bits = $this->packing->countBits;
        $mask = $this->packing->curveMask;
        $g = $h = $n = [];
        foreach ($histogram as $code => $packed) {
            $g[$code] = ($packed >> $shift) * $g1;
            $h[$code] = ($packed >> $bits & $mask) * $h1;
            // Of very many rows how many there are is told by their curvature, which is near enough.
            $n[$code] = $bits > 0 ? $packed & $this->packing->countMask : $h[$code] * 4;
        }
        $order = [];
        for ($code = 1, $m = \count($histogram); $code < $m; ++$code) {
            if ($n[$code] > 0) {
                $order[] = $code;
            }
        }
        if (!$isOrder) {
            $pull = [];
            foreach ($order as $code) {
                $pull[$code] = $g[$code] / ($h[$code] + $this->ridge);
            }
            asort($pull, \SORT_NUMERIC);
            $order = array_keys($pull);
        }
        $ends = $this->divided($order, $g, $h, $n);
        if (1 === \count($ends) && $n[0] < $this->rows) {
            return null;
        }
        $out = array_fill(0, \count($histogram), 0.0);
        $moved = false;
        $values = $sizes = [];
        foreach ($ends as [$from, $to]) {
            $sg = $sh = 0.0;
            for ($i = $from; $i < $to; ++$i) {
                $sg += $g[$order[$i]];
                $sh += $h[$order[$i]];
            }
            $values[] = $sg / ($sh + $this->ridge);
            $sizes[] = $sh;
        }
        if (0 !== $rising) {
            $values = self::held($values, $sizes, $rising);
        }
        foreach ($ends as $k => [$from, $to]) {
            for ($i = $from; $i < $to; ++$i) {
                $out[$order[$i]] = $rate * $values[$k];
            }
            $moved = $moved || abs($values[$k]) > 1e-12;
        }
        // Codes between those seen here go with the one before.
        if ($isOrder) {
            for ($code = 2, $m = \count($histogram); $code < $m; ++$code) {
                if (0 === $histogram[$code]) {
                    $out[$code] = $out[$code - 1];
                }
            }
        }
        if ($n[0] >= $this->rows) {
            $out[0] = $rate * $g[0] / ($h[0] + $this->ridge);
            $moved = $moved || abs($out[0]) > 1e-12;
        }

        return $moved ? array_values($out) : null;
    }

    /**
     * The best cuts, one after the other.
     *
     * @param list<int>        $order
     * @param array<int,float> $g
     * @param array<int,float> $h
     * @param array<int,float> $n
     *
     * @return list<array{int, int}> from and to, in the order of codes
     */
    private function divided(array $order, array $g, array $h, array $n): array
    {
        $parts = [[0, \count($order), null]];
        while (\count($parts) < $this->leaves) {
            $best = null;
            foreach ($parts as $k => [$from, $to, $cut]) {
                $cut ??= $this->cut($order, $from, $to, $g, $h, $n);
                $parts[$k][2] = $cut;
                if ($cut[0] > $this->gain && (null === $best || $cut[0] > $parts[$best][2][0])) {
                    $best = $k;
                }
            }
            if (null === $best) {
                break;
            }
            [$from, $to, $cut] = $parts[$best];
            array_splice($parts, $best, 1, [[$from, $cut[1] ?? $to, null], [$cut[1] ?? $to, $to, null]]);
        }

        return array_map(static fn (array $p): array => [$p[0], $p[1]], $parts);
    }

    /**
     * @param list<int>        $order
     * @param array<int,float> $g
     * @param array<int,float> $h
     * @param array<int,float> $n
     *
     * @return array{float, int} gain and where the right part begins
     */
    private function cut(array $order, int $from, int $to, array $g, array $h, array $n): array
    {
        $sg = $sh = $sn = 0.0;
        for ($i = $from; $i < $to; ++$i) {
            $code = $order[$i];
            $sg += $g[$code];
            $sh += $h[$code];
            $sn += $n[$code];
        }
        $ridge = $this->ridge;
        $whole = $sg * $sg / ($sh + $ridge);
        $lg = $lh = $ln = 0.0;
        [$best, $at] = [0.0, $from];
        for ($i = $from; $i < $to - 1; ++$i) {
            $code = $order[$i];
            $lg += $g[$code];
            $lh += $h[$code];
            $ln += $n[$code];
            if ($ln < $this->rows) {
                continue;
            }
            if ($sn - $ln < $this->rows) {
                break;
            }
            $gain = $lg * $lg / ($lh + $ridge) + ($sg - $lg) * ($sg - $lg) / ($sh - $lh + $ridge) - $whole;
            if ($gain > $best) {
                [$best, $at] = [$gain, $i + 1];
            }
        }

        return [$best, $at];
    }

    /**
     * Values that only rise, or only fall: neighbors that do not are pooled.
     *
     * @param list<float> $values
     * @param list<float> $sizes
     *
     * @return list<float>
     */
    private static function held(array $values, array $sizes, int $rising): array
    {
        $pools = [];
        foreach ($values as $k => $v) {
            $pools[] = [$rising * $v, $sizes[$k] + 1e-12, 1];
            while (\count($pools) > 1 && $pools[\count($pools) - 2][0] > $pools[\count($pools) - 1][0]) {
                [$v2, $s2, $c2] = array_pop($pools);
                [$v1, $s1, $c1] = array_pop($pools);
                $pools[] = [($v1 * $s1 + $v2 * $s2) / ($s1 + $s2), $s1 + $s2, $c1 + $c2];
            }
        }
        $out = [];
        foreach ($pools as [$v, , $count]) {
            array_push($out, ...array_fill(0, $count, $rising * $v));
        }

        return $out;
    }
}
