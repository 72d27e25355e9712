<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** For variance, and for Gini of two classes with weights or drawn cuts: the gain is a matter of weights and sums of each side. */
final readonly class MomentSearch extends ColumnSearch
{
    /** @param ?Drawing $drawing one cut per column is drawn instead of comparing all; null = all are compared */
    public function __construct(private Cells $cells, private Criterion $criterion, private Limits $limits, private ?Drawing $drawing = null)
    {
    }

    public function on(Cells $drawn): self
    {
        return new self($drawn, $this->criterion, $this->limits, $this->drawing);
    }

    protected function best(int $f, array $rows, array $counts): ?Found
    {
        $weight = $this->criterion->weight($counts);
        $sum = $counts[1];
        [$w, $s] = $this->moments($f, $rows);
        if (null !== $this->cells->levels[$f]) {
            return $this->bySortedLevels($f, $w, $s, $weight, $sum);
        }
        $missingWeight = $w[0] ?? 0;
        $missingSum = $s[0] ?? 0;
        $cutAt = $this->drawing?->cut($w);
        $leaf = $this->limits->leaf;
        $parent = $sum * $sum / $weight;
        $leftWeight = $leftSum = 0.0;
        $best = $parent;
        $before = $cut = $next = 0;
        $missingLeft = false;
        foreach ($w as $k => $own) {
            if (0 === $k || $own <= 0) {
                continue;
            }
            if ($before > 0 && (null === $cutAt || $before === $cutAt)) {
                $rightWeight = $weight - $leftWeight;
                $rightSum = $sum - $leftSum;
                if ($leftWeight >= $leaf && $rightWeight >= $leaf) {
                    $score = $leftSum * $leftSum / $leftWeight + $rightSum * $rightSum / $rightWeight;
                    if ($score - $parent > ($best - $parent) * (1 + self::SAME)) {
                        [$best, $cut, $next, $missingLeft] = [$score, $before, $k, false];
                    }
                }
                if ($missingWeight > 0) {
                    $a = $leftWeight + $missingWeight;
                    $b = $rightWeight - $missingWeight;
                    if ($a >= $leaf && $b >= $leaf) {
                        $score = ($leftSum + $missingSum) ** 2 / $a + ($rightSum - $missingSum) ** 2 / $b;
                        if ($score - $parent > ($best - $parent) * (1 + self::SAME)) {
                            [$best, $cut, $next, $missingLeft] = [$score, $before, $k, true];
                        }
                    }
                }
            }
            $leftWeight += $own;
            $leftSum += $s[$k];
            $before = $k;
        }
        // Whether there is a value at all may tell the most.
        if ($missingWeight >= $leaf && $leftWeight >= $leaf) {
            $score = $leftSum * $leftSum / $leftWeight + $missingSum * $missingSum / $missingWeight;
            if ($score - $parent > ($best - $parent) * (1 + self::SAME)) {
                [$best, $cut, $next, $missingLeft] = [$score, \PHP_INT_MAX, 0, false];
            }
        }
        if (0 === $cut) {
            return null;
        }
        if ($missingWeight <= 0) {
            $missingLeft = Drawing::isLargerLeft($w, $cut, $weight);
        }

        return Found::cut($f, $this->scaled($best - $parent), $cut, $next, $missingLeft, $missingWeight > 0);
    }

    /**
     * Weight and weighted sum of the outcome per code seen. Hot loop: one code and one addition or two per row; where there are far more
     * codes than rows, only what occurs is kept and sorted.
     *
     * @param list<int> $rows
     *
     * @return array{array<int, int|float>, array<int, int|float>} by code, ascending; codes without rows may have weight 0
     */
    private function moments(int $f, array $rows): array
    {
        $c = $this->cells->codes[$f];
        $w = $s = [];
        $sparse = 6 * \count($rows) < $this->cells->sizes[$f];
        $y = $this->cells->y;
        if (!$sparse) {
            $w = $s = array_fill(0, $this->cells->sizes[$f] + 1, 0.0);
        }
        if (!$sparse && null === $this->cells->weights) {
            foreach ($rows as $r) {
                $k = $c[$r];
                $w[$k] += 1.0;
                $s[$k] += $y[$r];
            }
        } elseif (null === $this->cells->weights) {
            foreach ($rows as $r) {
                $k = $c[$r];
                $w[$k] = ($w[$k] ?? 0.0) + 1.0;
                $s[$k] = ($s[$k] ?? 0.0) + $y[$r];
            }
        } else {
            $weights = $this->cells->weights;
            foreach ($rows as $r) {
                $k = $c[$r];
                $w[$k] = ($w[$k] ?? 0.0) + $weights[$r];
                $s[$k] = ($s[$k] ?? 0.0) + $weights[$r] * $y[$r];
            }
        }
        if ($sparse) {
            ksort($w);
            ksort($s);
        }

        return [$w, $s];
    }

    /** Gini of two classes is twice the variance. */
    private function scaled(float $gain): float
    {
        return Criterion::Gini === $this->criterion ? 2 * $gain : $gain;
    }

    /**
     * Levels sorted by their mean outcome: the best division into two sets is one of those in this order (Fisher 1958; Breiman et al.
     * 1984, theorem 4.5). Missing is a level like the others.
     *
     * @param array<int, int|float> $w
     * @param array<int, int|float> $s
     */
    private function bySortedLevels(int $f, array $w, array $s, float $weight, float $sum): ?Found
    {
        $means = [];
        foreach ($w as $k => $own) {
            if ($own > 0) {
                $means[$k] = $s[$k] / $own;
            }
        }
        // Codes come ascending and sorting is stable: of equal means the smaller code is first.
        asort($means);
        $order = array_keys($means);
        $leaf = $this->limits->leaf;
        $parent = $sum * $sum / $weight;
        $best = $parent;
        $taken = 0;
        $leftWeight = $leftSum = 0.0;
        $at = null !== $this->drawing && \count($order) > 1 ? $this->drawing->place(\count($order)) : null;
        for ($i = 1, $n = \count($order); $i < $n; ++$i) {
            $leftWeight += $w[$order[$i - 1]];
            $leftSum += $s[$order[$i - 1]];
            $rightWeight = $weight - $leftWeight;
            if ((null !== $at && $i !== $at) || $leftWeight < $leaf || $rightWeight < $leaf) {
                continue;
            }
            $score = $leftSum * $leftSum / $leftWeight + ($sum - $leftSum) ** 2 / $rightWeight;
            if ($score - $parent > ($best - $parent) * (1 + self::SAME)) {
                $best = $score;
                $taken = $i;
            }
        }

        return 0 === $taken ? null : Found::levels($f, $this->scaled($best - $parent), \array_slice($order, 0, $taken), $order, $w);
    }
}
