<?php

declare(strict_types=1);

namespace Dokimos\Core\Recheck;

use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;

/** Figures of two sets of records that have none in common, held against each other. Definitions: docs/methods/recheck.md. */
final class Periods
{
    /**
     * @param list<float> $eventThen  1 = the event
     * @param list<float> $chanceThen
     * @param list<float> $eventNow
     * @param list<float> $chanceNow
     *
     * @return array<string, float>
     */
    public static function auc(array $eventThen, array $chanceThen, array $eventNow, array $chanceNow): array
    {
        $then = DeLong::of($eventThen, $chanceThen);
        $now = DeLong::of($eventNow, $chanceNow);

        return self::apart($then->auc, $then->variance(), $now->auc, $now->variance());
    }

    /**
     * @param list<float> $truthThen
     * @param list<float> $saidThen
     * @param list<float> $truthNow
     * @param list<float> $saidNow
     *
     * @return array<string, float>
     */
    public static function rmse(array $truthThen, array $saidThen, array $truthNow, array $saidNow): array
    {
        [$then, $own] = self::error($truthThen, $saidThen);
        [$now, $other] = self::error($truthNow, $saidNow);

        return self::apart($then, $own, $now, $other);
    }

    /**
     * The root of the mean squared error, and its variance by the delta method.
     *
     * @param list<float> $truth
     * @param list<float> $said
     *
     * @return array{float, float}
     */
    private static function error(array $truth, array $said): array
    {
        $squares = array_map(static fn (float $y, float $p): float => ($y - $p) ** 2, $truth, $said);
        $n = \count($squares);
        $mean = array_sum($squares) / $n;
        $variance = array_sum(array_map(static fn (float $e): float => ($e - $mean) ** 2, $squares)) / ($n - 1);

        return [sqrt($mean), $mean > 0.0 ? $variance / $n / (4 * $mean) : 0.0];
    }

    /** @return array<string, float> */
    private static function apart(float $then, float $varianceThen, float $now, float $varianceNow): array
    {
        $se = sqrt($varianceThen + $varianceNow);
        $z = $se > 0.0 ? ($now - $then) / $se : 0.0;

        return [
            'training' => $then,
            'variance_training' => $varianceThen,
            'newer' => $now,
            'variance_newer' => $varianceNow,
            'difference' => $now - $then,
            'se' => $se,
            'z' => $z,
            'p' => (new Normal())->twoSided($z),
            'low' => $now - $then - Normal::Z95 * $se,
            'high' => $now - $then + Normal::Z95 * $se,
        ];
    }

    /**
     * @param list<float> $then 1 = the event
     * @param list<float> $now
     *
     * @return array<string, mixed>
     */
    public static function events(array $then, array $now): array
    {
        $own = static fn (array $event): Interval => Interval::wilson((float) array_sum($event), (float) \count($event));
        [$a, $b] = [$own($then), $own($now)];
        $told = static fn (array $event, Interval $share): array => [
            'events' => (int) array_sum($event),
            'rows' => \count($event),
            'share' => $share->value,
            'low' => $share->low,
            'high' => $share->high,
        ];
        $difference = $b->less($a);

        return [
            'training' => $told($then, $a),
            'newer' => $told($now, $b),
            'difference' => $difference?->value,
            'difference_low' => $difference?->low,
            'difference_high' => $difference?->high,
        ];
    }
}
