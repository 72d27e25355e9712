<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Findings\Outcome\Outcome;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/**
 * How well one column alone ranks records by the target, on rows that it did not learn from: on one scale for numbers, dates and
 * categories. The rows are parted in two halves; in one the mean outcome per value or bin is learned, and ranks the other, both ways round. Missing is a value like any other. Definition: docs/methods/target-strength.md.
 */
final readonly class TargetStrength
{
    /**
     * @param float $alone   of two records that came out differently, how often the column alone orders them rightly: 0.5 is a coin
     * @param int   $rows    records judged
     * @param float $settled of an event: the share of the judged events whose value alone nearly settles the outcome
     */
    private function __construct(public float $alone, public float $low, public float $high, public float $p, public int $rows, public float $settled)
    {
    }

    /** @return ?self null when the column cannot rank (text, identifiers) or there are too few records */
    public static function of(Column $column, Outcome $outcome): ?self
    {
        $codes = self::codes($column);
        $halves = $outcome->halves();
        if (null === $codes || null === $halves) {
            return null;
        }
        $alone = $half = $settled = 0.0;
        foreach ([0, 1] as $learning) {
            $one = $outcome->ranked($codes, $halves[$learning], $halves[1 - $learning]);
            $alone += 0.5 * $one['value'];
            // Both ways round agree by the same chance: their mean is no surer than either, and its interval is not narrowed.
            $half += 0.5 * $one['half'];
            $settled += 0.5 * $one['settled'];
        }

        return new self($alone, max(0.0, $alone - $half), min(1.0, $alone + $half), $outcome->chance($codes, self::values($column)), \count($halves[0]) + \count($halves[1]), $settled);
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
