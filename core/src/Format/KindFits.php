<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;

/** How many cells of a column could be read as a number, a date, or yes/no. */
final class KindFits
{
    /**
     * @param int $misfits cells that did not fit the column's own kind and stand as missing
     *
     * @return array{cells: int, number: int, date: int, yesNo: int} cells with a value, and how many of them fit
     */
    public static function of(Column $column, int $misfits = 0): array
    {
        $parser = new CellParser();
        $counts = [];
        $present = 0;
        for ($row = 0, $rows = $column->count(); $row < $rows; ++$row) {
            $text = $column->text($row);
            if (null !== $text) {
                $counts[$text] = ($counts[$text] ?? 0) + 1;
                ++$present;
            }
        }
        $number = $date = $yesNo = 0;
        foreach ($counts as $text => $count) {
            $text = (string) $text;
            $number += Kind::Number === $column->kind() || null !== $parser->number($text) ? $count : 0;
            $date += Kind::Date === $column->kind() || null !== $parser->date($text) ? $count : 0;
            $yesNo += null !== CellParser::yesNo($text) ? $count : 0;
        }

        return ['cells' => $present + $misfits, 'number' => $number, 'date' => $date, 'yesNo' => $yesNo];
    }
}
