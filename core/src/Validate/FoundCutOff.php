<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\Confusion;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\CutOff;

/**
 * The cut-off that does best by a figure or by costs, and what finding it is worth on rows that did not choose it: each fold is judged at
 * the
 * cut-off found on the others. Definition: docs/methods/cut-off.md.
 */
final readonly class FoundCutOff
{
    public const COSTS = 'costs';
    /** What it may be found by; costs are those of a hundred records, and less is better. */
    public const BY = ['f1', 'balanced_accuracy', 'kappa', 'mcc', 'accuracy', self::COSTS];
    private const STEP = 1e-6;

    /**
     * @param CutOff   $cutoff   found on all rows: the one to use
     * @param Interval $expected what it is worth on rows that did not choose
     * @param float    $seen     what it is worth on the rows that chose it
     * @param float    $from     the lowest that a fold's training rows found
     * @param float    $to       the highest
     */
    private function __construct(public CutOff $cutoff, public Interval $expected, public float $seen, public float $from, public float $to)
    {
    }

    /**
     * @param list<float>     $chances of rows that the models had not seen; NAN = none
     * @param list<float>     $outcome of the same rows: 1 for the event
     * @param list<list<int>> $parts   rows of each fold
     * @param float           $miss    cost of an event that is not called
     * @param float           $vain    cost of a call without the event
     *
     * @return ?self null where some fold's others hold no event, or nothing else
     */
    public static function of(array $chances, array $outcome, array $parts, string $by, float $miss = 1.0, float $vain = 1.0): ?self
    {
        $fold = [];
        foreach ($parts as $k => $rows) {
            foreach ($rows as $row) {
                if (!is_nan($chances[$row])) {
                    $fold[$row] = $k;
                }
            }
        }
        $order = array_keys($fold);
        usort($order, static fn (int $a, int $b): int => $chances[$b] <=> $chances[$a]);
        // As a cut-off is told, so that what is found is what will be called by.
        $steps = array_map(static fn (int $row): float => CutOff::reaching($chances[$row])->value, $order);
        $worth = static fn (float $tp, float $fp, float $fn, float $tn): float => self::worth($by, $tp, $fp, $fn, $tn, $miss, $vain);
        $sums = [0.0, 0.0, 0.0, 0.0];
        $found = [];
        foreach (\count($parts) > 1 ? array_keys($parts) : [] as $held) {
            $own = self::best($order, $steps, $outcome, $fold, $held, $worth);
            if (null === $own) {
                return null;
            }
            $found[] = $own->value;
            foreach ($parts[$held] as $row) {
                if (isset($fold[$row])) {
                    ++$sums[($outcome[$row] > 0.5 ? 0 : 1) + ($own->calls($chances[$row]) ? 0 : 2)];
                }
            }
        }
        $all = self::best($order, $steps, $outcome, $fold, null, $worth);
        if (null === $all) {
            return null;
        }
        $seen = [0.0, 0.0, 0.0, 0.0];
        foreach ($order as $row) {
            ++$seen[($outcome[$row] > 0.5 ? 0 : 1) + ($all->calls($chances[$row]) ? 0 : 2)];
        }
        $sign = self::COSTS === $by ? -1.0 : 1.0;
        $of = static fn (float ...$n): float => $sign * $worth($n[0], $n[1], $n[2], $n[3]);

        return new self(
            $all,
            [] === $found ? new Interval(null) : self::told($of, $sums),
            $of(...$seen),
            [] === $found ? $all->value : min($found),
            [] === $found ? $all->value : max($found),
        );
    }

    /** More is better; costs are told below zero. */
    private static function worth(string $by, float $tp, float $fp, float $fn, float $tn, float $miss, float $vain): float
    {
        if (self::COSTS === $by) {
            return -100.0 * ($miss * $fn + $vain * $fp) / max(1e-300, $tp + $fp + $fn + $tn);
        }

        return (new Confusion(0.0, $tp, $fp, $fn, $tn))->toArray()[$by] ?? 0.0;
    }

    /**
     * @param list<int>                                   $order   rows, highest chance first
     * @param list<float>                                 $steps   their chances as cut-offs
     * @param list<float>                                 $outcome
     * @param array<int, int>                             $fold    of each row
     * @param ?int                                        $held    fold that has no say
     * @param \Closure(float, float, float, float): float $worth
     */
    private static function best(array $order, array $steps, array $outcome, array $fold, ?int $held, \Closure $worth): ?CutOff
    {
        $events = $others = 0.0;
        foreach ($order as $row) {
            if ($fold[$row] !== $held) {
                $outcome[$row] > 0.5 ? ++$events : ++$others;
            }
        }
        if (0.0 === $events || 0.0 === $others) {
            return null;
        }
        $tp = $fp = 0.0;
        $best = null;
        $most = -\INF;
        $n = \count($order);
        foreach ($order as $i => $row) {
            if ($fold[$row] !== $held) {
                $outcome[$row] > 0.5 ? ++$tp : ++$fp;
            }
            if ($i + 1 < $n && $steps[$i + 1] === $steps[$i]) {
                continue;
            }
            $own = $worth($tp, $fp, $events - $tp, $others - $fp);
            if ($own > $most) {
                [$most, $best] = [$own, $steps[$i]];
            }
        }

        return null === $best ? null : CutOff::at($best);
    }

    /**
     * With the interval of the delta method for the four counts as draws of one distribution.
     *
     * @param \Closure(float...): float $of     of called events, calls in vain, missed events and the rest
     * @param list<float>               $counts
     */
    private static function told(\Closure $of, array $counts): Interval
    {
        $n = array_sum($counts);
        $value = $of(...$counts);
        $mean = $square = 0.0;
        foreach ($counts as $k => $count) {
            if (0.0 === $count) {
                continue;
            }
            $share = $count / $n;
            $up = $down = $counts;
            $up[$k] += self::STEP * $n;
            $down[$k] -= self::STEP * $n;
            $slope = ($of(...array_values($up)) - $of(...array_values($down))) / (2 * self::STEP);
            $mean += $share * $slope;
            $square += $share * $slope ** 2;
        }
        $half = Normal::Z95 * sqrt(max(0.0, $square - $mean ** 2) / $n);

        return new Interval($value, $value - $half, $value + $half);
    }
}
