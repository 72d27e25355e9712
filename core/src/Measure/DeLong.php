<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

use Dokimos\Core\Math\Distribution\Normal;

/**
 * Variance of the area under the ROC curve by structural components (DeLong, DeLong and Clarke-Pearson 1988), with mid-ranks
 * (Sun and Xu 2014), so that it takes n log n steps.
 */
final readonly class DeLong
{
    /**
     * @param list<float> $byEvent structural component per event
     * @param list<float> $byOther structural component per other record
     */
    private function __construct(public float $auc, private array $byEvent, private array $byOther)
    {
    }

    /**
     * @param list<float> $event 1 = the event, 0 = not; both must occur
     * @param list<float> $score
     */
    public static function of(array $event, array $score): self
    {
        $events = $others = [];
        foreach ($score as $i => $s) {
            if ($event[$i] > 0.5) {
                $events[] = $s;
            } else {
                $others[] = $s;
            }
        }
        $m = \count($events);
        $n = \count($others);
        if (0 === $m || 0 === $n) {
            throw new \DomainException('The area under the ROC curve needs both outcomes.');
        }
        $all = self::midRanks([...$events, ...$others]);
        $own = self::midRanks($events);
        $ownOthers = self::midRanks($others);
        $byEvent = $byOther = [];
        for ($i = 0; $i < $m; ++$i) {
            $byEvent[] = ($all[$i] - $own[$i]) / $n;
        }
        for ($j = 0; $j < $n; ++$j) {
            $byOther[] = 1.0 - ($all[$m + $j] - $ownOthers[$j]) / $m;
        }

        return new self(array_sum($byEvent) / $m, $byEvent, $byOther);
    }

    public function variance(): float
    {
        return self::covariance($this, $this);
    }

    public function interval(): Interval
    {
        $half = Normal::Z95 * sqrt($this->variance());

        return new Interval($this->auc, max(0.0, $this->auc - $half), min(1.0, $this->auc + $half));
    }

    /** Of two scores of the same records. */
    public static function covariance(self $a, self $b): float
    {
        return self::between($a->byEvent, $b->byEvent, $a->auc, $b->auc) + self::between($a->byOther, $b->byOther, $a->auc, $b->auc);
    }

    /** @return array{auc_difference: float, se: float, covariance: float, z: float, p: float} */
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
     */
    private static function between(array $a, array $b, float $meanA, float $meanB): float
    {
        $n = \count($a);
        if ($n < 2) {
            return 0.0;
        }
        $sum = 0.0;
        foreach ($a as $i => $v) {
            $sum += ($v - $meanA) * ($b[$i] - $meanB);
        }

        return $sum / ($n - 1) / $n;
    }

    /**
     * @param list<float> $values
     *
     * @return list<float>
     */
    private static function midRanks(array $values): array
    {
        asort($values);
        $keys = array_keys($values);
        $sorted = array_values($values);
        $ranks = array_fill(0, \count($values), 0.0);
        $count = \count($sorted);
        for ($i = 0; $i < $count; $i = $j) {
            for ($j = $i + 1; $j < $count && $sorted[$j] === $sorted[$i]; ++$j) {
            }
            $rank = 0.5 * ($i + $j + 1);
            for ($k = $i; $k < $j; ++$k) {
                $ranks[$keys[$k]] = $rank;
            }
        }

        /** @var list<float> $ranks */
        return $ranks;
    }
}
