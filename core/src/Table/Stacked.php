<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/** Rows of two tables of the same columns, one below the other. */
final class Stacked
{
    /** @throws \DomainException when a column is of another kind in each */
    public static function of(Table $above, Table $below): Table
    {
        $columns = [];
        foreach ($above->names() as $name) {
            $columns[$name] = self::columns($above->column($name), $below->column($name));
        }

        return Table::of($columns, $above->rows + $below->rows);
    }

    /** @throws \DomainException when they are of different kinds */
    public static function columns(Column $above, Column $below): Column
    {
        if ($above instanceof NumberColumn && $below instanceof NumberColumn) {
            return new NumberColumn([...$above->values, ...$below->values]);
        }
        if ($above instanceof DateColumn && $below instanceof DateColumn) {
            return new DateColumn([...$above->seconds, ...$below->seconds]);
        }
        if ($above instanceof TextColumn && $below instanceof TextColumn) {
            return new TextColumn([...$above->cells, ...$below->cells], $above->kind());
        }
        if ($above instanceof CodedColumn && $below instanceof CodedColumn) {
            $levels = $above->levels;
            $place = array_flip($levels);
            $codes = [];
            foreach ($below->levels as $code => $level) {
                $place[$level] ??= array_push($levels, $level) - 1;
                $codes[$code] = $place[$level];
            }

            return new CodedColumn(
                [...$above->codes, ...array_map(static fn (int $c): int => $codes[$c] ?? $c, $below->codes)],
                array_values($levels),
                $above->kind(),
            );
        }

        throw new \DomainException(\sprintf('A column of %s cannot stand below one of %s.', $below->kind()->value, $above->kind()->value));
    }
}
