<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

use Dokimos\Core\Learn\Tree\Packing;

/** One small step of what two columns do together: a cut in each, and the four quarters moved as their slopes have it. */
final readonly class PairStep
{
    public function __construct(private Packing $packing, private float $rows, private float $ridge)
    {
    }

    /**
     * @param list<int> $histogram packed, by cell: place in the first times the width, and place in the second
     *
     * @return ?list<float> what is added by cell; null where nothing is gained
     */
    public function of(array $histogram, int $width, float $g1, float $h1, bool $firstOrder, bool $secondOrder, float $rate): ?array
    {
        $shift = $this->packing->gradientShift;
        $bits = $this->packing->countBits;
        $height = intdiv(\count($histogram), $width);
        $g = $h = $n = [];
        foreach ($histogram as $packed) {
            $curve = ($packed >> $bits & $this->packing->curveMask) * $h1;
            $g[] = ($packed >> $shift) * $g1;
            $h[] = $curve;
            $n[] = $bits > 0 ? $packed & $this->packing->countMask : $curve * 4;
        }
        $rows = $firstOrder ? range(0, $height - 1) : self::ordered($g, $h, $height, $width, true, $this->ridge);
        $columns = $secondOrder ? range(0, $width - 1) : self::ordered($g, $h, $height, $width, false, $this->ridge);
        $best = $this->cut($g, $h, $n, $rows, $columns, $width);
        if (null === $best) {
            return null;
        }
        [$r, $c, $values] = $best;
        $out = array_fill(0, \count($histogram), 0.0);
        foreach ($rows as $i => $row) {
            foreach ($columns as $j => $column) {
                $out[$row * $width + $column] = $rate * $values[($i < $r ? 0 : 2) + ($j < $c ? 0 : 1)];
            }
        }

        return array_values($out);
    }

    /**
     * Levels by how differently they pull in the lower and the upper half of the other column.
     *
     * @param list<float> $g
     * @param list<float> $h
     *
     * @return list<int>
     */
    private static function ordered(array $g, array $h, int $height, int $width, bool $isFirst, float $ridge): array
    {
        [$own, $other] = $isFirst ? [$height, $width] : [$width, $height];
        $weight = array_fill(0, $other, 0.0);
        for ($i = 0; $i < $own; ++$i) {
            for ($j = 0; $j < $other; ++$j) {
                $weight[$j] += $h[$isFirst ? $i * $width + $j : $j * $width + $i];
            }
        }
        $half = array_sum($weight) / 2;
        $sum = 0.0;
        $middle = 0;
        while ($middle < $other - 1 && $sum < $half) {
            $sum += $weight[$middle++];
        }
        $pull = [];
        for ($i = 0; $i < $own; ++$i) {
            $low = $high = [0.0, 0.0];
            for ($j = 0; $j < $other; ++$j) {
                $cell = $isFirst ? $i * $width + $j : $j * $width + $i;
                if ($j < $middle) {
                    $low = [$low[0] + $g[$cell], $low[1] + $h[$cell]];
                } else {
                    $high = [$high[0] + $g[$cell], $high[1] + $h[$cell]];
                }
            }
            $pull[$i] = $low[0] / ($low[1] + $ridge) - $high[0] / ($high[1] + $ridge);
        }
        asort($pull, \SORT_NUMERIC);

        return array_keys($pull);
    }

    /**
     * @param list<float>     $g
     * @param list<float>     $h
     * @param list<int|float> $n
     * @param list<int>       $rows
     * @param list<int>       $columns
     *
     * @return ?array{int, int, list<float>} where each is cut, and the value of each quarter
     */
    private function cut(array $g, array $h, array $n, array $rows, array $columns, int $width): ?array
    {
        // Sums of all cells up to and left of each.
        $sg = [array_fill(0, \count($columns) + 1, 0.0)];
        $sh = $sn = $sg;
        foreach ($rows as $i => $row) {
            $lg = $lh = $ln = 0.0;
            [$sg[$i + 1], $sh[$i + 1], $sn[$i + 1]] = [[0.0], [0.0], [0.0]];
            foreach ($columns as $j => $column) {
                $cell = $row * $width + $column;
                $lg += $g[$cell];
                $lh += $h[$cell];
                $ln += $n[$cell];
                $sg[$i + 1][$j + 1] = $sg[$i][$j + 1] + $lg;
                $sh[$i + 1][$j + 1] = $sh[$i][$j + 1] + $lh;
                $sn[$i + 1][$j + 1] = $sn[$i][$j + 1] + $ln;
            }
        }
        [$r, $c] = [\count($rows), \count($columns)];
        [$allG, $allH, $allN] = [$sg[$r][$c], $sh[$r][$c], $sn[$r][$c]];
        $best = 1e-12;
        $found = null;
        for ($i = 1; $i < $r; ++$i) {
            for ($j = 1; $j < $c; ++$j) {
                $qg = [$sg[$i][$j], $sg[$i][$c] - $sg[$i][$j], $sg[$r][$j] - $sg[$i][$j], 0.0];
                $qh = [$sh[$i][$j], $sh[$i][$c] - $sh[$i][$j], $sh[$r][$j] - $sh[$i][$j], 0.0];
                $qn = [$sn[$i][$j], $sn[$i][$c] - $sn[$i][$j], $sn[$r][$j] - $sn[$i][$j], 0.0];
                $qg[3] = $allG - $qg[0] - $qg[1] - $qg[2];
                $qh[3] = $allH - $qh[0] - $qh[1] - $qh[2];
                $qn[3] = $allN - $qn[0] - $qn[1] - $qn[2];
                if (min($qn) < $this->rows) {
                    continue;
                }
                $gain = 0.0;
                foreach ($qg as $k => $q) {
                    $gain += $q * $q / ($qh[$k] + $this->ridge);
                }
                if ($gain > $best) {
                    $best = $gain;
                    $found = [$i, $j, array_map(fn (float $q, float $w): float => $q / ($w + $this->ridge), $qg, $qh)];
                }
            }
        }

        return $found;
    }
}
