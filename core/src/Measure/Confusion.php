<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

/** Hits and misses when everything at or above a cut-off is called. Counts may be sums of weights. */
final readonly class Confusion
{
    public function __construct(public float $cutoff, public float $tp, public float $fp, public float $fn, public float $tn)
    {
    }

    /** @return array<string, ?float> the figures of docs/methods/binary-figures.md */
    public function toArray(): array
    {
        [$tp, $fp, $fn, $tn] = [$this->tp, $this->fp, $this->fn, $this->tn];
        $n = $tp + $fp + $fn + $tn;
        $share = static fn (float $part, float $whole): ?float => $whole > 0.0 ? $part / $whole : null;
        $recall = $share($tp, $tp + $fn);
        $specificity = $share($tn, $tn + $fp);
        $accuracy = ($tp + $tn) / $n;
        $chance = (($tp + $fp) * ($tp + $fn) + ($fn + $tn) * ($fp + $tn)) / ($n * $n);
        $product = ($tp + $fp) * ($tp + $fn) * ($tn + $fp) * ($tn + $fn);

        return [
            'cutoff' => $this->cutoff, 'tp' => $tp, 'fp' => $fp, 'fn' => $fn, 'tn' => $tn,
            'accuracy' => $accuracy,
            'precision' => $share($tp, $tp + $fp),
            'recall' => $recall,
            'specificity' => $specificity,
            'negative_predictive_value' => $share($tn, $tn + $fn),
            'f1' => $share(2 * $tp, 2 * $tp + $fp + $fn),
            'balanced_accuracy' => null === $recall || null === $specificity ? null : ($recall + $specificity) / 2,
            'mcc' => $product > 0.0 ? ($tp * $tn - $fp * $fn) / sqrt($product) : 0.0,
            'kappa' => $chance < 1.0 ? ($accuracy - $chance) / (1 - $chance) : null,
            'predicted_positive_share' => ($tp + $fp) / $n,
        ];
    }

    /** @return array<string, Interval> Wilson's, F1 by the share of hits */
    public function intervals(): array
    {
        return [
            'accuracy' => Interval::wilson($this->tp + $this->tn, $this->tp + $this->fp + $this->fn + $this->tn),
            'precision' => Interval::wilson($this->tp, $this->tp + $this->fp),
            'recall' => Interval::wilson($this->tp, $this->tp + $this->fn),
            'specificity' => Interval::wilson($this->tn, $this->tn + $this->fp),
            'f1' => Interval::f1($this->tp, $this->fp, $this->fn),
        ];
    }
}
