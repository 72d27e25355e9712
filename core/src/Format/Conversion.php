<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\TextColumn;

/** Carries a column to another kind; cells that do not fit become missing. */
final class Conversion
{
    public static function to(Column $column, Kind $kind): Column
    {
        if ($column->kind() === $kind) {
            return $column;
        }
        $parser = new CellParser();
        $cells = [];
        for ($row = 0, $count = $column->count(); $row < $count; ++$row) {
            $cells[] = $column->text($row);
        }

        return match ($kind) {
            Kind::Number => new NumberColumn(array_map(static fn (?string $c) => null === $c ? \NAN : $parser->number($c) ?? \NAN, $cells)),
            Kind::Date => new DateColumn(array_map(static fn (?string $c) => null === $c ? DateColumn::MISSING : $parser->date($c) ?? DateColumn::MISSING, $cells)),
            Kind::Text, Kind::Identifier => new TextColumn($cells, $kind),
            default => CodedColumn::fromCells($cells, $kind),
        };
    }

    /** A column of missing cells. */
    public static function missing(Kind $kind, int $rows): Column
    {
        return self::to(new TextColumn($rows > 0 ? array_fill(0, $rows, null) : []), $kind);
    }
}
