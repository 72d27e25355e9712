<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

/** All binary figures of one score in one document, in the layout of the reference cases. */
final class BinaryReport
{
    /**
     * @param list<float> $event
     * @param list<float> $score
     * @param list<float> $cutoffs
     *
     * @return array<string, mixed> figures by the names of the reference cases
     */
    public static function of(array $event, array $score, array $cutoffs): array
    {
        $scores = new BinaryScores($event, $score);
        $auc = $scores->auc();
        $delong = null === $auc ? null : DeLong::of($event, $score);

        return [
            'cutoffs' => array_map(static fn (Confusion $c) => $c->toArray(), $scores->atAll($cutoffs)),
            'log_loss' => $scores->logLoss(),
            'brier' => $scores->brier(),
            'roc_auc' => $auc,
            'gini' => null === $auc ? null : 2 * $auc - 1,
            'average_precision' => $scores->averagePrecision(),
            'ks' => $scores->ks(),
            'best_f1' => $scores->bestF1(),
            'delong' => null === $delong ? null : ['auc' => $delong->auc, 'se' => sqrt($delong->variance()), 'ci_low' => $delong->wald()->low, 'ci_high' => $delong->wald()->high],
            'gains_stable' => $scores->gains(false),
            'gains_averaged' => $scores->gains(),
            'calibration' => Calibration::of($event, $score)->toArray(),
            'roc_points' => $scores->rocPoints(),
        ];
    }

    /**
     * @param list<float> $event
     * @param list<float> $score
     * @param list<float> $weights
     * @param list<float> $cutoffs
     *
     * @return array<string, mixed> figures by the names of the reference cases, records counted by weight
     */
    public static function weighted(array $event, array $score, array $weights, array $cutoffs): array
    {
        $scores = new BinaryScores($event, $score, $weights);

        return [
            'weight_sum' => array_sum($weights),
            'cutoffs' => array_map(static fn (Confusion $c) => $c->toArray(), $scores->atAll($cutoffs)),
            'log_loss' => $scores->logLoss(),
            'brier' => $scores->brier(),
            'roc_auc' => $scores->auc(),
            'average_precision' => $scores->averagePrecision(),
            'ks' => $scores->ks()['statistic'],
        ];
    }
}
