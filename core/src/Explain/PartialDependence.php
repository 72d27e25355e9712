<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * What a model answers as one column changes and all others stay: for each row (Goldstein et al. 2015), and on average (Friedman
 * 2001). Definition: docs/methods/importance.md.
 */
final readonly class PartialDependence
{
    private const POINTS = 20;

    /**
     * @param list<float|string> $grid values given to the column
     * @param list<float>        $mean of the answers over the rows, per value
     * @param list<list<float>>  $rows answers per row asked for, one per value
     */
    private function __construct(public array $grid, public array $mean, public array $rows)
    {
    }

    /**
     * @param \Closure(Table): list<float> $answers
     * @param list<float|string>           $grid    numbers, days since 1970, or levels
     * @param list<int>                    $single  rows whose own curve is wanted
     */
    public static function of(\Closure $answers, Table $table, string $column, array $grid, array $single = []): self
    {
        $means = [];
        $rows = array_fill(0, \count($single), []);
        foreach ($grid as $value) {
            $own = $answers($table->with($column, self::same($table->column($column), $value, $table->rows)));
            $known = array_filter($own, static fn (float $v) => !is_nan($v));
            $means[] = [] === $known ? \NAN : array_sum($known) / \count($known);
            foreach ($single as $i => $row) {
                $rows[$i][] = $own[$row];
            }
        }

        return new self($grid, $means, array_values($rows));
    }

    /**
     * Two columns together.
     *
     * @param \Closure(Table): list<float> $answers
     * @param list<float|string>           $grid
     * @param list<float|string>           $otherGrid
     *
     * @return list<list<float>> by value of the first, then of the other
     */
    public static function ofTwo(\Closure $answers, Table $table, string $column, array $grid, string $other, array $otherGrid): array
    {
        return array_map(static fn (float|string $value): array => self::of($answers, $table->with($column, self::same($table->column($column), $value, $table->rows)), $other, $otherGrid)->mean, $grid);
    }

    /** @return list<float|string> values to ask for: levels by frequency, or numbers spread like the rows */
    public static function grid(Column $column): array
    {
        if ($column instanceof CodedColumn) {
            $counts = \array_slice($column->counts(), 0, \count($column->levels), true);
            arsort($counts);

            return array_map(static fn (int $code): string => $column->levels[$code], \array_slice(array_keys(array_filter($counts)), 0, self::POINTS));
        }
        $values = [];
        if ($column instanceof NumberColumn) {
            $values = array_values(array_filter($column->values, is_finite(...)));
        } elseif ($column instanceof DateColumn) {
            foreach ($column->seconds as $s) {
                if (DateColumn::MISSING !== $s) {
                    $values[] = $s / DateColumn::DAY;
                }
            }
        }
        sort($values);
        $grid = [];
        for ($i = 0; $i < self::POINTS && [] !== $values; ++$i) {
            $grid[] = (float) $values[(int) round($i / (self::POINTS - 1) * (\count($values) - 1))];
        }

        return array_values(array_unique($grid));
    }

    private static function same(Column $column, float|string $value, int $rows): Column
    {
        return match (true) {
            $column instanceof DateColumn => new DateColumn(0 === $rows ? [] : array_fill(0, $rows, (int) round((float) $value * DateColumn::DAY))),
            $column instanceof NumberColumn => new NumberColumn(0 === $rows ? [] : array_fill(0, $rows, (float) $value)),
            default => CodedColumn::fromCells(0 === $rows ? [] : array_fill(0, $rows, (string) $value), $column->kind()),
        };
    }
}
