<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

use Dokimos\Core\Math\Distribution\ChiSquare;

/** Whether chances come true: ten groups of about equal size by score. Definitions: docs/methods/binary-figures.md. */
final readonly class Calibration
{
    /**
     * @param list<float>                                                                                            $edges
     * @param list<array{bin: int, low: float, high: float, n: int, mean_score: float, positives: int, rate: float}> $bins
     */
    private function __construct(public array $edges, public array $bins, private int $n)
    {
    }

    /**
     * @param list<float> $event
     * @param list<float> $score
     */
    public static function of(array $event, array $score): self
    {
        $sorted = $score;
        sort($sorted);
        $n = \count($sorted);
        $edges = [];
        for ($k = 1; $k <= 9; ++$k) {
            $j = intdiv($k * ($n - 1), 10);
            $fraction = ($k * ($n - 1) % 10) / 10;
            $low = $sorted[$j];
            $edge = $fraction > 0 ? $low + $fraction * ($sorted[$j + 1] - $low) : $low;
            if ($edge < $sorted[$n - 1] && ([] === $edges || $edge > $edges[\count($edges) - 1])) {
                $edges[] = $edge;
            }
        }
        $last = \count($edges);
        $count = $sum = $hits = array_fill(0, $last + 1, 0);
        foreach ($score as $i => $s) {
            $b = 0;
            while ($b < $last && $s > $edges[$b]) {
                ++$b;
            }
            ++$count[$b];
            $sum[$b] += $s;
            $hits[$b] += $event[$i] > 0.5 ? 1 : 0;
        }
        $bins = [];
        foreach ($count as $b => $size) {
            if ($size > 0) {
                $bins[] = ['bin' => $b + 1, 'low' => $b > 0 ? $edges[$b - 1] : $sorted[0], 'high' => $edges[$b] ?? $sorted[$n - 1], 'n' => $size, 'mean_score' => $sum[$b] / $size, 'positives' => (int) $hits[$b], 'rate' => $hits[$b] / $size];
            }
        }

        return new self($edges, $bins, $n);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $expected = $worst = $chi2 = 0.0;
        foreach ($this->bins as $bin) {
            $gap = abs($bin['mean_score'] - $bin['rate']);
            $expected += $bin['n'] * $gap / $this->n;
            $worst = max($worst, $gap);
            $variance = $bin['n'] * $bin['mean_score'] * (1 - $bin['mean_score']);
            $chi2 += $variance > 0.0 ? ($bin['positives'] - $bin['n'] * $bin['mean_score']) ** 2 / $variance : 0.0;
        }
        $df = \count($this->bins) - 2;

        return [
            'edges' => $this->edges, 'bins' => $this->bins,
            'expected_calibration_error' => $expected, 'max_calibration_error' => $worst,
            'hosmer_lemeshow' => ['chi2' => $chi2, 'df' => $df, 'p' => $df > 0 ? (new ChiSquare($df))->upper($chi2) : null],
        ];
    }
}
