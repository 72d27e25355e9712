<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/** Rows by the value of one column: each frequent value a group, numbers and dates in fifths. */
final readonly class Groups
{
    private const FREQUENT = 12;
    private const BINS = 5;

    /**
     * @param list<string>    $names
     * @param list<list<int>> $rows  of each group, never empty
     */
    private function __construct(public array $names, public array $rows)
    {
    }

    /** @throws \DomainException for free text */
    public static function of(Column $column): self
    {
        return match (true) {
            $column instanceof CodedColumn => self::byValue($column),
            $column instanceof NumberColumn => self::byBin($column->values, static fn (float $v): string => NumberColumn::write((float) \sprintf('%.4G', $v)), 'no value'),
            $column instanceof DateColumn => self::byBin(array_map(static fn (int $s): float => DateColumn::MISSING === $s ? \NAN : (float) $s, $column->seconds), static fn (float $v): string => substr(DateColumn::write((int) $v), 0, 10), 'no date'),
            default => throw new \DomainException('Free text does not divide rows into groups.'),
        };
    }

    private static function byValue(CodedColumn $column): self
    {
        $counts = $column->counts();
        arsort($counts);
        $own = [];
        $place = 0;
        $present = array_keys(array_filter($counts));
        foreach ($present as $code) {
            $own[$code] = \count($present) <= self::FREQUENT ? $place++ : min($place++, self::FREQUENT - 1);
        }
        $names = $rows = [];
        foreach ($own as $code => $group) {
            $names[$group] = isset($names[$group]) ? 'all others' : $column->levels[$code];
        }
        $none = \count($names);
        for ($row = 0, $n = $column->count(); $row < $n; ++$row) {
            $code = $column->codes[$row];
            $rows[$column->isMissing($row) ? $none : $own[$code]][] = $row;
        }
        if (isset($rows[$none])) {
            $names[$none] = 'no value';
        }
        ksort($rows);

        return new self(array_values($names), array_values($rows));
    }

    /**
     * @param list<float>             $values  NAN = missing
     * @param \Closure(float): string $written
     */
    private static function byBin(array $values, \Closure $written, string $missing): self
    {
        $edges = QuantileBins::edges($values, self::BINS);
        $last = \count($edges);
        $rows = [];
        foreach ($values as $row => $v) {
            $b = 0;
            while ($b < $last && $v > $edges[$b]) {
                ++$b;
            }
            $rows[is_nan($v) ? $last + 1 : $b][] = $row;
        }
        ksort($rows);
        $names = [];
        foreach (array_keys($rows) as $b) {
            $names[] = match (true) {
                $b > $last => $missing,
                0 === $last => 'any value',
                0 === $b => 'up to '.$written($edges[0]),
                $b === $last => 'above '.$written($edges[$last - 1]),
                default => 'above '.$written($edges[$b - 1]).' to '.$written($edges[$b]),
            };
        }

        return new self($names, array_values($rows));
    }
}
