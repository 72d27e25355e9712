<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

/**
 * Scores of records whose outcome is known, sorted once for all figures. Definitions: docs/methods/binary-figures.md.
 */
final readonly class BinaryScores
{
    /**
     * One entry per distinct score, highest first: score, weight of events, weight of the others.
     *
     * @var list<array{float, float, float}>
     */
    private array $groups;
    public float $positives;
    public float $negatives;
    public int $n;

    /**
     * @param list<float>  $event   1 = the event, 0 = not
     * @param list<float>  $score
     * @param ?list<float> $weights
     *
     * @throws \LengthException scores, outcomes and weights need one value per record
     * @throws \DomainException there is no record to measure
     */
    public function __construct(private array $event, private array $score, private ?array $weights = null)
    {
        if (\count($event) !== \count($score) || null !== $weights && \count($weights) !== \count($score)) {
            throw new \LengthException('Scores, outcomes and weights need one value per record.');
        }
        if ([] === $score) {
            throw new \DomainException('There is no record to measure.');
        }
        $order = $score;
        arsort($order);
        $levels = $with = $without = [];
        $k = -1;
        $last = null;
        $positives = $negatives = 0.0;
        foreach ($order as $i => $s) {
            if ($s !== $last) {
                $levels[++$k] = $s;
                $with[$k] = $without[$k] = 0.0;
                $last = $s;
            }
            $w = null === $weights ? 1.0 : $weights[$i];
            if ($event[$i] > 0.5) {
                $with[$k] += $w;
                $positives += $w;
            } else {
                $without[$k] += $w;
                $negatives += $w;
            }
        }
        $groups = [];
        foreach ($levels as $g => $level) {
            $groups[] = [$level, $with[$g], $without[$g]];
        }
        $this->groups = $groups;
        $this->positives = $positives;
        $this->negatives = $negatives;
        $this->n = \count($score);
    }

    /** @return array{averagePrecision: Interval, ks: Interval} by drawing the records again */
    public function drawnAgain(): array
    {
        return Bootstrap::ranking($this->groups);
    }

    /** Everything at or above the cut-off is called. */
    public function at(float $cutoff): Confusion
    {
        $tp = $fp = 0.0;
        foreach ($this->groups as [$score, $pos, $neg]) {
            if ($score < $cutoff) {
                break;
            }
            $tp += $pos;
            $fp += $neg;
        }

        return new Confusion($cutoff, $tp, $fp, $this->positives - $tp, $this->negatives - $fp);
    }

    /**
     * The same for many cut-offs in one pass.
     *
     * @param list<float> $cutoffs
     *
     * @return list<Confusion>
     */
    public function atAll(array $cutoffs): array
    {
        $order = $cutoffs;
        arsort($order);
        $out = [];
        $tp = $fp = 0.0;
        $g = 0;
        $last = \count($this->groups);
        foreach ($order as $i => $cutoff) {
            while ($g < $last && $this->groups[$g][0] >= $cutoff) {
                $tp += $this->groups[$g][1];
                $fp += $this->groups[$g][2];
                ++$g;
            }
            $out[$i] = new Confusion($cutoff, $tp, $fp, $this->positives - $tp, $this->negatives - $fp);
        }
        ksort($out);

        return array_values($out);
    }

    /** P(score of an event > score of another) + ½ P(equal); null when one class is absent. */
    public function auc(): ?float
    {
        if ($this->positives <= 0.0 || $this->negatives <= 0.0) {
            return null;
        }
        $area = $above = 0.0;
        foreach ($this->groups as [, $pos, $neg]) {
            $area += $neg * ($above + 0.5 * $pos);
            $above += $pos;
        }

        return $area / ($this->positives * $this->negatives);
    }

    /** Σ over the distinct scores, descending, of (recall step) × precision; no interpolation. */
    public function averagePrecision(): ?float
    {
        if ($this->positives <= 0.0) {
            return null;
        }
        $sum = $tp = $fp = 0.0;
        foreach ($this->groups as [, $pos, $neg]) {
            $tp += $pos;
            $fp += $neg;
            $sum += $pos > 0.0 ? $pos / $this->positives * $tp / ($tp + $fp) : 0.0;
        }

        return $sum;
    }

    /** @return array{statistic: float, cutoff: float} the greatest distance between the shares reached of both classes */
    public function ks(): array
    {
        $best = -1.0;
        $cutoff = $this->groups[0][0];
        $tp = $fp = 0.0;
        foreach ($this->groups as [$score, $pos, $neg]) {
            $tp += $pos;
            $fp += $neg;
            $distance = ($this->positives > 0.0 ? $tp / $this->positives : 0.0) - ($this->negatives > 0.0 ? $fp / $this->negatives : 0.0);
            if ($distance > $best) {
                $best = $distance;
                $cutoff = $score;
            }
        }

        return ['statistic' => $best, 'cutoff' => $cutoff];
    }

    /** @return array{f1: float, cutoff: float} the largest F1 over all cut-offs, and the highest cut-off that has it */
    public function bestF1(): array
    {
        $best = -1.0;
        $cutoff = $this->groups[0][0];
        $tp = $fp = 0.0;
        foreach ($this->groups as [$score, $pos, $neg]) {
            $tp += $pos;
            $fp += $neg;
            $f1 = 2 * $tp / (2 * $tp + $fp + $this->positives - $tp);
            if ($f1 > $best) {
                $best = $f1;
                $cutoff = $score;
            }
        }

        return ['f1' => $best, 'cutoff' => $cutoff];
    }

    /** @return list<array<string, ?float>> (0, 0) first, then one point per distinct score */
    public function rocPoints(): array
    {
        $points = [['threshold' => null, 'fpr' => 0.0, 'tpr' => 0.0]];
        $tp = $fp = 0.0;
        foreach ($this->groups as [$score, $pos, $neg]) {
            $tp += $pos;
            $fp += $neg;
            $points[] = ['threshold' => $score, 'fpr' => $this->negatives > 0 ? $fp / $this->negatives : null, 'tpr' => $this->positives > 0 ? $tp / $this->positives : null, 'precision' => $tp / ($tp + $fp)];
        }

        return $points;
    }

    /**
     * The same curve with at most so many points, for drawing.
     *
     * @return list<array<string, ?float>>
     */
    public function rocCurve(int $most = 200): array
    {
        $points = $this->rocPoints();
        $count = \count($points);
        if ($count <= $most) {
            return $points;
        }
        $kept = [];
        for ($i = 0; $i < $most; ++$i) {
            $kept[] = $points[(int) round($i * ($count - 1) / ($most - 1))];
        }

        return $kept;
    }

    /** Mean of -ln of the chance given to what happened, clipped at 1e-15. */
    public function logLoss(): float
    {
        return $this->weightedMean($this->logLosses());
    }

    public function brier(): float
    {
        return $this->weightedMean($this->squares());
    }

    /** @return list<float> per row, in nats */
    public function logLosses(): array
    {
        $out = [];
        foreach ($this->score as $i => $s) {
            $out[] = Surprise::at($this->event[$i] > 0.5 ? $s : 1.0 - $s);
        }

        return $out;
    }

    /** @return list<float> per row the squared difference of chance and outcome */
    public function squares(): array
    {
        $out = [];
        foreach ($this->score as $i => $s) {
            $out[] = ($s - ($this->event[$i] > 0.5 ? 1.0 : 0.0)) ** 2;
        }

        return $out;
    }

    /** @param list<float> $values */
    private function weightedMean(array $values): float
    {
        if (null === $this->weights) {
            return array_sum($values) / \count($values);
        }
        $sum = 0.0;
        foreach ($values as $i => $v) {
            $sum += $this->weights[$i] * $v;
        }

        return $sum / array_sum($this->weights);
    }

    /**
     * Tenths of the records by descending score.
     *
     * @param bool $averaged each record counts with the share of events among its equals, so that row order does not matter
     *
     * @return list<array{decile: int, n: int, positives: float, rate: float, lift: ?float, cumulative_n: int, cumulative_positives: float, cumulative_gain: ?float, cumulative_lift: ?float}>
     */
    public function gains(bool $averaged = true): array
    {
        $share = [];
        foreach ($this->groups as [$score, $pos, $neg]) {
            $share[(string) $score] = $pos / ($pos + $neg);
        }
        $order = array_keys($this->score);
        usort($order, fn (int $a, int $b) => $this->score[$b] <=> $this->score[$a] ?: $a <=> $b);
        $rows = [];
        $sum = 0.0;
        $overall = $this->positives / $this->n;
        for ($k = 1; $k <= 10; ++$k) {
            $from = intdiv(($k - 1) * $this->n, 10);
            $to = intdiv($k * $this->n, 10);
            $hits = 0.0;
            for ($i = $from; $i < $to; ++$i) {
                $hits += $averaged ? $share[(string) $this->score[$order[$i]]] : $this->event[$order[$i]];
            }
            if ($to === $from) {
                continue;
            }
            $sum += $hits;
            $rate = $hits / ($to - $from);
            $rows[] = [
                'decile' => $k, 'n' => $to - $from, 'positives' => $hits, 'rate' => $rate, 'lift' => $overall > 0 ? $rate / $overall : null,
                'cumulative_n' => $to, 'cumulative_positives' => $sum, 'cumulative_gain' => $this->positives > 0 ? $sum / $this->positives : null,
                'cumulative_lift' => $overall > 0 ? $sum / $to / $overall : null,
            ];
        }

        return $rows;
    }
}
