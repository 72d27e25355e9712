<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Table\NumberColumn;
use PhpOffice\PhpSpreadsheet\Cell\Cell;
use PhpOffice\PhpSpreadsheet\Cell\Coordinate;
use PhpOffice\PhpSpreadsheet\Reader\Xlsx;
use PhpOffice\PhpSpreadsheet\Shared\Date;
use PhpOffice\PhpSpreadsheet\Spreadsheet;

/**
 * An XLSX or ODS file: stored values of one sheet. The file is looked over before it is opened: too much inside, or a document type that
 * could fetch other files, is refused.
 */
final class Workbook extends Container
{
    /** Bytes that a workbook may hold unpacked, and how much smaller it may be packed. */
    private const MOST_BYTES = 400 << 20;
    private const MOST_RATIO = 200;
    private const MOST_ENTRIES = 5000;
    /** A cell takes about a kilobyte of memory while a workbook is open. */
    private const MOST_CELLS = 600_000;
    /** Read as a stream a cell takes no memory, but time. */
    private const MOST_STREAMED = 20_000_000;
    /** Days after which no calendar goes on: the end of the year 9999. */
    private const LAST_DAY = 2_958_466;

    private readonly Xlsx|OdsSheets $reader;

    public function __construct(private readonly string $path)
    {
        $zip = new \ZipArchive();
        if (true !== $zip->open($path, \ZipArchive::RDONLY)) {
            throw self::unreadable();
        }
        try {
            $this->reader = $this->checked($zip);
        } finally {
            $zip->close();
        }
    }

    private function checked(\ZipArchive $zip): Xlsx|OdsSheets
    {
        if ($zip->numFiles > self::MOST_ENTRIES) {
            throw new UnreadableTable(\sprintf('The workbook holds %s files inside, far more than a workbook needs. It was not opened.', number_format($zip->numFiles)));
        }
        $bytes = 0;
        for ($i = 0; $i < $zip->numFiles; ++$i) {
            $entry = $zip->statIndex($i);
            if (false === $entry) {
                throw self::unreadable();
            }
            $bytes += $entry['size'];
            if ($bytes > self::MOST_BYTES || $entry['size'] > 10 << 20 && $entry['size'] > self::MOST_RATIO * max(1, $entry['comp_size'])) {
                throw new UnreadableTable('Unpacked, the workbook would be far larger than it looks. It was not opened. Save the sheet as CSV and try again.');
            }
            if (str_ends_with(strtolower($entry['name']), '.xml') && $this->declaresType($zip, $i)) {
                throw new UnreadableTable('The workbook declares a document type, which could fetch other files. It was not opened.');
            }
        }
        if (false !== $zip->locateName('xl/workbook.xml')) {
            $reader = new Xlsx();
            $reader->setReadEmptyCells(false);

            return $reader;
        }
        if (false !== $zip->locateName('content.xml')) {
            return new OdsSheets($this->path);
        }
        throw new UnreadableTable('The file is an archive, but neither an XLSX nor an ODS workbook. Nothing was imported.');
    }

    private function declaresType(\ZipArchive $zip, int $index): bool
    {
        // A declaration stands before the first element; UTF-16 would hide it from a plain search.
        $head = str_replace("\0", '', (string) $zip->getFromIndex($index, 4096));

        return str_contains($head, '<!DOCTYPE') || str_contains($head, '<!ENTITY');
    }

    public function what(): string
    {
        return 'workbook';
    }

    public function parts(): array
    {
        $names = $this->guarded(function (): array {
            /** @var list<string> $names */
            $names = $this->reader instanceof OdsSheets ? $this->reader->names() : array_values($this->reader->listWorksheetNames($this->path));

            return $names;
        });

        return [] === $names ? throw self::unreadable() : $names;
    }

    /** @throws UnreadableTable There is no sheet … in the workbook. and more */
    public function write(string $part, string $to, int $most): void
    {
        if (!\in_array($part, $this->parts(), true)) {
            throw new UnreadableTable(\sprintf('There is no sheet %s in the workbook.', $part));
        }
        if ($this->reader instanceof OdsSheets) {
            $this->guarded(fn (): bool => self::putSheet($this->reader, $part, $most, $to));

            return;
        }
        $this->reader->setLoadSheetsOnly([$part]);
        [$rows, $columns] = $this->size($part);
        if ($rows * $columns > self::MOST_CELLS) {
            throw new UnreadableTable(\sprintf('The sheet has %s cells; up to %s can be read from a workbook. Save it as CSV and import that.', number_format($rows * $columns), number_format(self::MOST_CELLS)));
        }
        if ($most < $rows) {
            $this->reader->setReadFilter(new FirstRows($most + 1));
        }
        $book = $this->guarded(fn (): Spreadsheet => $this->reader->load($this->path));
        try {
            self::put(self::records($book, $part, $most), $to);
        } finally {
            $book->disconnectWorksheets();
        }
    }

    private static function putSheet(OdsSheets $sheets, string $part, int $most, string $to): bool
    {
        $records = static function () use ($sheets, $part, $most): \Generator {
            $width = $cells = $given = 0;
            foreach ($sheets->rows($part) as $row) {
                if (++$given > $most + 1) {
                    return;
                }
                // The first row says how wide the table is; a wider one below is as wide as it is.
                $width = max($width, \count($row));
                if (($cells += $width) > self::MOST_STREAMED) {
                    throw new UnreadableTable(\sprintf('The sheet has more than %s cells. Save it as CSV and import that.', number_format(self::MOST_STREAMED)));
                }
                yield array_pad($row, $width, null);
            }
        };
        self::put($records(), $to);

        return true;
    }

    public function about(string $part): int
    {
        if ($this->reader instanceof OdsSheets) {
            $rows = $this->guarded(fn (): int => iterator_count($this->reader->rows($part)));

            return max(0, $rows - 1);
        }

        return max(0, $this->size($part)[0] - 1);
    }

    /** @return array{int, int} rows and columns of a sheet */
    private function size(string $part): array
    {
        return $this->guarded(function () use ($part): array {
            /** @var list<array{worksheetName: string, totalRows: int|string, totalColumns: int|string}> $sheets */
            $sheets = $this->reader instanceof Xlsx ? $this->reader->listWorksheetInfo($this->path) : [];
            foreach ($sheets as $sheet) {
                if ($sheet['worksheetName'] === $part) {
                    return [(int) $sheet['totalRows'], (int) $sheet['totalColumns']];
                }
            }

            return [0, 0];
        });
    }

    /** @return \Generator<int, list<?string>> */
    private static function records(Spreadsheet $book, string $part, int $most): \Generator
    {
        $sheet = $book->getSheetByName($part);
        if (null === $sheet) {
            throw self::unreadable();
        }
        $width = Coordinate::columnIndexFromString($sheet->getHighestDataColumn());
        $letters = array_map(Coordinate::stringFromColumnIndex(...), range(1, $width));
        $height = min($most + 1, $sheet->getHighestDataRow());
        $stored = $sheet->getCellCollection();
        $dates = [];
        for ($row = 1; $row <= $height; ++$row) {
            $cells = [];
            foreach ($letters as $letter) {
                $cell = $stored->has($letter.$row) ? $stored->get($letter.$row) : null;
                // Whether a style means a date is asked once per style: it is slow.
                $cells[] = null === $cell ? null : self::text($cell, $dates[$cell->getXfIndex()] ??= Date::isDateTimeFormat($book->getCellXfByIndex($cell->getXfIndex())->getNumberFormat()));
            }
            yield $cells;
        }
    }

    /** The stored value: formulas are not computed again, dates are written as ISO, yes/no as words. */
    private static function text(Cell $cell, bool $isDate): ?string
    {
        $value = $cell->isFormula() ? $cell->getOldCalculatedValue() : $cell->getValue();
        if (null === $value || '' === $value) {
            return null;
        }
        if (\is_bool($value)) {
            return $value ? 'yes' : 'no';
        }
        if ($isDate && (\is_int($value) || \is_float($value)) && $value >= 0 && $value < self::LAST_DAY) {
            $when = Date::excelToDateTimeObject($value);

            return $value < 1 ? $when->format('H:i:s') : $when->format(0.0 === fmod((float) $value, 1.0) ? 'Y-m-d' : 'Y-m-d H:i:s');
        }
        if (\is_int($value) || \is_float($value)) {
            return is_finite((float) $value) ? NumberColumn::write((float) $value) : ($value > 0 ? 'INF' : '-INF');
        }
        $text = \is_scalar($value) || $value instanceof \Stringable ? (string) $value : '';

        return str_starts_with($text, '#') && \in_array($text, ['#N/A', '#DIV/0!', '#REF!', '#VALUE!', '#NAME?', '#NUM!', '#NULL!'], true) ? null : $text;
    }

    /**
     * @template T
     *
     * @param \Closure(): T $do
     *
     * @return T
     */
    private function guarded(\Closure $do): mixed
    {
        // What the XML parser warns of is said in our sentence.
        $before = libxml_use_internal_errors(true);
        try {
            return $do();
        } catch (UnreadableTable $e) {
            throw $e;
        } catch (\Throwable $e) {
            throw self::unreadable($e);
        } finally {
            libxml_clear_errors();
            libxml_use_internal_errors($before);
        }
    }

    private static function unreadable(?\Throwable $why = null): UnreadableTable
    {
        return new UnreadableTable('The workbook is damaged or protected by a password. Save it again, or save the sheet as CSV. Nothing was imported.', 0, $why);
    }
}
