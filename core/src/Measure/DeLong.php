<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

use Dokimos\Core\Math\Distribution\Normal;

/**
 * Variance of the area under the ROC curve by structural components (DeLong, DeLong and Clarke-Pearson 1988), with mid-ranks
 * (Sun and Xu 2014), so that it takes n log n steps. With weights, components and their means are weighted, and a mean's variance is
 * n / (n − 1) Σ w² (v − m)² / (Σ w)².
 */
final readonly class DeLong
{
    /** With fewer records of either kind there is no interval. */
    private const FEWEST = 5;
    /** With fewer of either kind DeLong's interval is too narrow. */
    private const FEW = 30;

    /**
     * @param list<float> $byEvent structural component per event
     * @param list<float> $byOther structural component per other record
     * @param list<float> $w       weight per event
     * @param list<float> $v       weight per other record
     * @param list<int>   $records places of the events, then of the others
     * @param bool        $counts  whether a weight is a number of records
     */
    private function __construct(public float $auc, private array $byEvent, private array $byOther, private array $w, private array $v, private array $records, private bool $counts)
    {
    }

    /**
     * @param list<float>  $event   1 = the event, 0 = not; both must occur
     * @param list<float>  $score
     * @param ?list<float> $weights records of weight 0 do not count
     * @param bool         $counts  whether a weight is a number of records: weight 3 is the same as three records
     *
     * @throws \DomainException the area under the ROC curve needs both outcomes
     */
    public static function of(array $event, array $score, ?array $weights = null, bool $counts = false): self
    {
        $events = $others = $w = $v = $at = $apart = [];
        foreach ($score as $i => $s) {
            $weight = $weights[$i] ?? 1.0;
            if ($weight <= 0.0) {
                continue;
            }
            if ($event[$i] > 0.5) {
                $events[] = $s;
                $w[] = $weight;
                $at[] = $i;
            } else {
                $others[] = $s;
                $v[] = $weight;
                $apart[] = $i;
            }
        }
        $m = array_sum($w);
        $n = array_sum($v);
        if ([] === $w || [] === $v) {
            throw new \DomainException('The area under the ROC curve needs both outcomes.');
        }
        $all = self::midRanks([...$events, ...$others], [...$w, ...$v]);
        $own = self::midRanks($events, $w);
        $ownOthers = self::midRanks($others, $v);
        $byEvent = $byOther = [];
        $auc = 0.0;
        foreach ($own as $i => $rank) {
            $byEvent[] = $component = ($all[$i] - $rank) / $n;
            $auc += $w[$i] * $component;
        }
        foreach ($ownOthers as $j => $rank) {
            $byOther[] = 1.0 - ($all[\count($events) + $j] - $rank) / $m;
        }

        return new self($auc / $m, $byEvent, $byOther, $w, $v, [...$at, ...$apart], $counts);
    }

    public function variance(): float
    {
        return self::covariance($this, $this);
    }

    /** By DeLong's variance; with few records of either kind Newcombe's limits, and none where there are hardly any. */
    public function interval(): Interval
    {
        $fewest = min(\count($this->w), \count($this->v));
        if ($fewest < self::FEWEST) {
            return new Interval($this->auc);
        }

        return $fewest < self::FEW ? $this->newcombe() : $this->wald();
    }

    /** The area ± 1.96 standard errors. */
    public function wald(): Interval
    {
        $half = Normal::Z95 * sqrt($this->variance());

        return new Interval($this->auc, max(0.0, $this->auc - $half), min(1.0, $this->auc + $half));
    }

    /**
     * The areas that lie just 1.96 of their own standard errors from this one, by Hanley and McNeil's variance with m and n both taken as
     * their mean (Newcombe 2006, method 5): asymmetric, and of some width for a perfect ranking too.
     */
    private function newcombe(): Interval
    {
        $m = \count($this->w);
        $n = \count($this->v);
        $star = ($m + $n) / 2 - 1;
        $reach = static fn (float $a): float => Normal::Z95 * sqrt(max(0.0, $a * (1 - $a) * (1 + $star * (1 - $a) / (2 - $a) + $star * $a / (1 + $a)) / ($m * $n)));
        $limit = function (float $far) use ($reach): float {
            // Between the area and the far end the distance grows, in standard errors of the point itself, from 0 to beyond any bound.
            $near = $this->auc;
            for ($i = 0; $i < 60; ++$i) {
                $middle = 0.5 * ($near + $far);
                if (abs($middle - $this->auc) < $reach($middle)) {
                    $near = $middle;
                } else {
                    $far = $middle;
                }
            }

            return 0.5 * ($near + $far);
        };

        return new Interval($this->auc, $this->auc > 0.0 ? $limit(0.0) : 0.0, $this->auc < 1.0 ? $limit(1.0) : 1.0);
    }

    /**
     * The mean of several areas on the same records, such as of each class against the others: what each record adds to each area is added
     * up before it is squared, since the areas go together.
     *
     * @param non-empty-list<self> $areas
     */
    public static function mean(array $areas): Interval
    {
        $by = [];
        $mean = 0.0;
        foreach ($areas as $area) {
            $mean += $area->auc / \count($areas);
            foreach ($area->influences() as $record => $influence) {
                $by[$record] = ($by[$record] ?? 0.0) + $influence / \count($areas);
            }
        }
        $variance = 0.0;
        foreach ($by as $influence) {
            $variance += $influence * $influence;
        }
        $half = Normal::Z95 * sqrt($variance);

        return new Interval($mean, max(0.0, $mean - $half), min(1.0, $mean + $half));
    }

    /** @return array<int, float> what each record adds to the error of the area, by its place; their squares add up to the variance */
    private function influences(): array
    {
        $out = [];
        $k = 0;
        foreach ([[$this->byEvent, $this->w], [$this->byOther, $this->v]] as [$components, $weights]) {
            $n = \count($components);
            $all = array_sum($weights);
            foreach ($components as $i => $component) {
                $out[$this->records[$k++]] = $n > 1 ? sqrt($n / ($n - 1)) * $weights[$i] / $all * ($component - $this->auc) : 0.0;
            }
        }

        return $out;
    }

    /** Of two scores of the same records. */
    public static function covariance(self $a, self $b): float
    {
        return self::between($a->byEvent, $b->byEvent, $a->auc, $b->auc, $a->w, $a->counts) + self::between($a->byOther, $b->byOther, $a->auc, $b->auc, $a->v, $a->counts);
    }

    /**
     * The difference of two areas on the same rows, its error, and the two-sided test that there is none.
     *
     * @return array{auc_difference: float, se: float, covariance: float, z: float, p: float}
     */
    public static function test(self $a, self $b): array
    {
        $covariance = self::covariance($a, $b);
        $se = sqrt(max(0.0, $a->variance() + $b->variance() - 2 * $covariance));
        $z = $se > 0.0 ? ($a->auc - $b->auc) / $se : 0.0;

        return ['auc_difference' => $a->auc - $b->auc, 'se' => $se, 'covariance' => $covariance, 'z' => $z, 'p' => (new Normal())->twoSided($z)];
    }

    /**
     * @param list<float> $a
     * @param list<float> $b
     * @param list<float> $w
     */
    private static function between(array $a, array $b, float $meanA, float $meanB, array $w, bool $counts): float
    {
        $n = \count($a);
        if ($counts) {
            $all = array_sum($w);
            $sum = 0.0;
            foreach ($a as $i => $v) {
                $sum += $w[$i] * ($v - $meanA) * ($b[$i] - $meanB);
            }

            return $all > 1.0 ? $sum / ($all - 1) / $all : 0.0;
        }
        if ($n < 2) {
            return 0.0;
        }
        $sum = 0.0;
        foreach ($a as $i => $v) {
            $sum += $w[$i] * $w[$i] * ($v - $meanA) * ($b[$i] - $meanB);
        }
        $all = array_sum($w);

        return $sum / ($n - 1) * $n / $all / $all;
    }

    /**
     * The weight below each value and half of that at it.
     *
     * @param list<float> $values
     * @param list<float> $weights
     *
     * @return list<float>
     */
    private static function midRanks(array $values, array $weights): array
    {
        asort($values);
        $keys = array_keys($values);
        $sorted = array_values($values);
        $ranks = array_fill(0, \count($values), 0.0);
        $count = \count($sorted);
        $below = 0.0;
        for ($i = 0; $i < $count; $i = $j) {
            $at = $weights[$keys[$i]];
            for ($j = $i + 1; $j < $count && $sorted[$j] === $sorted[$i]; ++$j) {
                $at += $weights[$keys[$j]];
            }
            for ($k = $i; $k < $j; ++$k) {
                $ranks[$keys[$k]] = $below + 0.5 * $at;
            }
            $below += $at;
        }

        /** @var list<float> $ranks */
        return $ranks;
    }
}
