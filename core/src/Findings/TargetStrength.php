<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Profile\Chance;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/**
 * How well one column alone ranks records by the event, on rows that it did not learn from: on one scale for numbers, dates and
 * categories. The rows are parted in two halves; in one the share of events per value or bin is learned, and ranks the other, both ways
 * round. Missing is a value like any other. Definition: docs/methods/target-strength.md.
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
        $auc = $half = $settled = 0.0;
        foreach ([0, 1] as $learning) {
            [$one, $part] = self::judged($codes, $event, $halves[$learning], $halves[1 - $learning]);
            $auc += 0.5 * $one->auc;
            // Both ways round agree by the same chance: their mean is no surer than either, and its interval is not narrowed.
            $half += 0.5 * Normal::Z95 * sqrt($one->variance());
            $settled += 0.5 * $part;
        }

        return new self($auc, max(0.0, $auc - $half), min(1.0, $auc + $half), self::chance($column, $codes, $event), $counts[0] + $counts[1], $settled);
    }

    /**
     * One half learns the share of events of each value, the other is ranked by it.
     *
     * @param list<int>   $codes
     * @param list<float> $event
     * @param list<int>   $learning
     * @param list<int>   $judging
     *
     * @return array{DeLong, float} and the share of the events whose value nearly settles the outcome
     */
    private static function judged(array $codes, array $event, array $learning, array $judging): array
    {
        $hits = $sizes = [];
        foreach ($learning as $row) {
            $code = $codes[$row];
            $sizes[$code] = ($sizes[$code] ?? 0) + 1;
            $hits[$code] = ($hits[$code] ?? 0.0) + $event[$row];
        }
        $overall = array_sum($hits) / \count($learning);
        $bar = self::SETTLING * $overall / (1.0 - $overall + self::SETTLING * $overall);
        $known = $score = [];
        $settled = $events = 0;
        foreach ($judging as $row) {
            $code = $codes[$row];
            $rate = (($hits[$code] ?? 0.0) + self::BORROWED * $overall) / (($sizes[$code] ?? 0) + self::BORROWED);
            $known[] = $event[$row];
            $score[] = $rate;
            if ($event[$row] > 0.5) {
                ++$events;
                $settled += $rate >= $bar ? 1 : 0;
            }
        }

        return [DeLong::of($known, $score), $settled / max(1, $events)];
    }

    /**
     * The chance of so strong a relation if there were none, on all rows: chi-square over values or bins, missing among them; for numbers
     * the smaller of that and the rank correlation's, doubled because two were asked.
     *
     * @param list<int>   $codes
     * @param list<float> $event
     */
    private static function chance(Column $column, array $codes, array $event): float
    {
        $levels = $classes = [];
        foreach ($event as $row => $e) {
            $levels[] = $codes[$row] + 1;
            $classes[] = is_nan($e) ? -1 : ($e > 0.5 ? 1 : 0);
        }
        $p = Chance::ofCategories($levels, $classes) ?? 1.0;
        $values = self::values($column);

        return null === $values ? $p : min(1.0, 2 * min($p, Chance::ofNumbers($values, $event) ?? 1.0));
    }

    /** @return ?list<float> */
    private static function values(Column $column): ?array
    {
        if ($column instanceof DateColumn) {
            return array_map(static fn (int $s) => DateColumn::MISSING === $s ? \NAN : (float) $s, $column->seconds);
        }

        return $column instanceof NumberColumn ? $column->values : null;
    }

    /** @return ?list<int> */
    private static function codes(Column $column): ?array
    {
        if ($column instanceof CodedColumn) {
            return $column->codes;
        }
        $values = self::values($column);

        return null === $values ? null : QuantileBins::codes($values, QuantileBins::edges($values));
    }
}
