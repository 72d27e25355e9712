<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/** A column with some of its cells taken out, as if they were missing. */
final class Blanked
{
    /**
     * A category keeps only the levels that are still there, in order of their names, so that nothing tells of the cells that are gone.
     *
     * @param list<int> $rows places in the column
     */
    public static function of(Column $column, array $rows): Column
    {
        if ([] === $rows) {
            return $column;
        }
        if ($column instanceof NumberColumn) {
            $values = $column->values;
            foreach ($rows as $row) {
                $values[$row] = \NAN;
            }

            return new NumberColumn(array_values($values));
        }
        if ($column instanceof DateColumn) {
            $seconds = $column->seconds;
            foreach ($rows as $row) {
                $seconds[$row] = DateColumn::MISSING;
            }

            return new DateColumn(array_values($seconds));
        }
        if ($column instanceof CodedColumn) {
            $codes = $column->codes;
            foreach ($rows as $row) {
                $codes[$row] = -1;
            }
            $there = array_fill_keys($codes, true);
            unset($there[-1]);
            $names = array_intersect_key($column->levels, $there);
            asort($names, \SORT_STRING);
            $places = array_flip(array_keys($names));

            return new CodedColumn(array_map(static fn (int $code): int => $places[$code] ?? -1, array_values($codes)), array_values($names), $column->kind());
        }
        $cells = [];
        for ($row = 0, $count = $column->count(); $row < $count; ++$row) {
            $cells[] = $column->text($row);
        }
        foreach ($rows as $row) {
            $cells[$row] = null;
        }

        return new TextColumn(array_values($cells), $column->kind());
    }
}
