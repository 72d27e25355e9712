<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Table\Kind;
use PhpOffice\PhpSpreadsheet\Cell\Coordinate;
use PhpOffice\PhpSpreadsheet\Cell\DataType;
use PhpOffice\PhpSpreadsheet\Shared\Date;
use PhpOffice\PhpSpreadsheet\Spreadsheet;
use PhpOffice\PhpSpreadsheet\Writer\Xlsx;

/** Writes a table as an XLSX workbook of one sheet: numbers, dates and yes/no as such, all else as text that no program runs. */
final class WorkbookWriter
{
    /** A cell takes about a kilobyte of memory while a workbook is made. */
    public const MOST_CELLS = 600_000;

    /**
     * @param list<string>            $names
     * @param list<Kind>              $kinds
     * @param iterable<list<?string>> $records
     */
    public static function write(array $names, array $kinds, iterable $records, string $path): void
    {
        $book = new Spreadsheet();
        $sheet = $book->getActiveSheet();
        foreach ($names as $j => $name) {
            $sheet->setCellValueExplicit([$j + 1, 1], $name, DataType::TYPE_STRING);
        }
        $row = 1;
        $timed = [];
        foreach ($records as $cells) {
            ++$row;
            foreach ($cells as $j => $cell) {
                if (null === $cell) {
                    continue;
                }
                $at = [$j + 1, $row];
                $timed[$j] = ($timed[$j] ?? false) || Kind::Date === $kinds[$j] && str_contains($cell, ':');
                match (true) {
                    Kind::Number === $kinds[$j] => $sheet->setCellValueExplicit($at, (float) $cell, DataType::TYPE_NUMERIC),
                    Kind::Date === $kinds[$j] => $sheet->setCellValueExplicit($at, Date::dateTimeToExcel(new \DateTimeImmutable($cell, new \DateTimeZone('UTC'))), DataType::TYPE_NUMERIC),
                    Kind::YesNo === $kinds[$j] && null !== CellParser::yesNo($cell) => $sheet->setCellValueExplicit($at, CellParser::yesNo($cell), DataType::TYPE_BOOL),
                    default => $sheet->setCellValueExplicit($at, mb_substr($cell, 0, 32767), DataType::TYPE_STRING),
                };
            }
        }
        foreach ($kinds as $j => $kind) {
            if (Kind::Date === $kind) {
                $column = Coordinate::stringFromColumnIndex($j + 1);
                $sheet->getStyle($column.'2:'.$column.max(2, $row))->getNumberFormat()->setFormatCode($timed[$j] ?? false ? 'yyyy-mm-dd hh:mm:ss' : 'yyyy-mm-dd');
            }
        }
        $writer = new Xlsx($book);
        $writer->setPreCalculateFormulas(false);
        $writer->save($path);
        $book->disconnectWorksheets();
    }
}
