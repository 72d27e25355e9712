<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/**
 * How well one column alone ranks records by the event, on rows that it did not learn from: on one scale for numbers, dates and
 * categories. The rows are parted in two halves; in one the share of events per value or bin is learned, and ranks the other.
 * Missing is a value like any other. Definition: docs/methods/target-strength.md.
 */
final readonly class TargetStrength
{
    /** Events that every value borrows from the whole, so that rare values do not shout. */
    private const BORROWED = 10.0;

    /** Odds so many times those of the whole nearly settle the outcome. */
    private const SETTLING = 10.0;

    /** @param float $settled the share of the judged events whose value alone nearly settles the outcome */
    private function __construct(public float $auc, public float $low, public float $high, public float $p, public int $rows, public float $settled)
    {
    }

    /**
     * @param list<float> $event 1, 0 or NAN
     *
     * @return ?self null when the column cannot rank (text, identifiers) or there are fewer than ten of either kind
     */
    public static function of(Column $column, array $event): ?self
    {
        $codes = self::codes($column);
        if (null === $codes) {
            return null;
        }
        $halves = [[], []];
        $counts = [0, 0];
        foreach ($event as $row => $e) {
            if ($e === $e) {
                $class = $e > 0.5 ? 1 : 0;
                // Every other record of either kind, so that both halves have the same share of events.
                $halves[$counts[$class]++ & 1][] = $row;
            }
        }
        if ($counts[0] < 10 || $counts[1] < 10) {
            return null;
        }
        // One half learns and the other judges, not both ways round: the two would agree by the same chance and look like twice the evidence.
        $hits = $sizes = [];
        foreach ($halves[0] as $row) {
            $code = $codes[$row];
            $sizes[$code] = ($sizes[$code] ?? 0) + 1;
            $hits[$code] = ($hits[$code] ?? 0.0) + $event[$row];
        }
        $overall = array_sum($hits) / \count($halves[0]);
        $known = $score = [];
        $settled = $events = 0;
        $bar = self::SETTLING * $overall / (1.0 - $overall + self::SETTLING * $overall);
        foreach ($halves[1] as $row) {
            $code = $codes[$row];
            $rate = (($hits[$code] ?? 0.0) + self::BORROWED * $overall) / (($sizes[$code] ?? 0) + self::BORROWED);
            $known[] = $event[$row];
            $score[] = $rate;
            if ($event[$row] > 0.5) {
                ++$events;
                $settled += $rate >= $bar ? 1 : 0;
            }
        }
        $delong = DeLong::of($known, $score);
        $interval = $delong->interval();
        $se = sqrt($delong->variance());

        return new self($delong->auc, (float) $interval->low, (float) $interval->high, $se > 0.0 ? (new Normal())->upper(($delong->auc - 0.5) / $se) : ($delong->auc > 0.5 ? 0.0 : 1.0), \count($known), $settled / max(1, $events));
    }

    /** @return ?list<int> */
    private static function codes(Column $column): ?array
    {
        if ($column instanceof CodedColumn) {
            return $column->codes;
        }
        if ($column instanceof DateColumn) {
            $column = new NumberColumn(array_map(static fn (int $s) => DateColumn::MISSING === $s ? \NAN : (float) $s, $column->seconds));
        }

        return $column instanceof NumberColumn ? QuantileBins::codes($column->values, QuantileBins::edges($column->values)) : null;
    }

    /**
     * P-values of many columns, corrected so that the chance of even one false alarm stays as said (Holm 1979).
     *
     * @param array<array-key, float> $p
     *
     * @return array<array-key, float> in the same order
     */
    public static function adjusted(array $p): array
    {
        $sorted = $p;
        asort($sorted);
        $n = \count($p);
        $worst = 0.0;
        $out = $p;
        $i = 0;
        foreach ($sorted as $key => $value) {
            $worst = max($worst, min(1.0, ($n - $i++) * $value));
            $out[$key] = $worst;
        }

        return $out;
    }
}
