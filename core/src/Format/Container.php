<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** A file that holds several tables. One of them is written as CSV, and read from there on like any other file. */
abstract class Container
{
    /**
     * "workbook" or "database", by the first bytes of a file; null when it is neither, so most likely text.
     *
     * @throws UnreadableTable This is a workbook in the old binary form. Save it as XLSX, ODS or CSV and try again. Nothing was import…
     */
    public static function kindOf(string $path): ?string
    {
        $head = (string) file_get_contents($path, false, null, 0, 16);

        return match (true) {
            str_starts_with($head, "PK\x03\x04") => 'workbook',
            str_starts_with($head, "SQLite format 3\0") => 'database',
            str_starts_with($head, "\xD0\xCF\x11\xE0") => throw new UnreadableTable('This is a workbook in the old binary form. Save it as XLSX, ODS or CSV and try again. Nothing was imported.'),
            default => null,
        };
    }

    /** The container in a file; null when it is none. */
    public static function open(string $path): ?self
    {
        return match (self::kindOf($path)) {
            'workbook' => new Workbook($path),
            'database' => new DatabaseFile($path),
            default => null,
        };
    }

    /** "workbook" or "database". */
    abstract public function what(): string;

    /** @return list<string> the sheets or tables, in their order */
    abstract public function parts(): array;

    /** How many records a part has; null when that is only known after reading it. */
    abstract public function about(string $part): ?int;

    /**
     * @param string $part one of parts(), or for a database a SELECT
     * @param string $to   where the CSV is written, UTF-8 with commas and one header line
     * @param int    $most records at most
     */
    abstract public function write(string $part, string $to, int $most): void;

    /**
     * @param iterable<list<?string>> $records
     */
    protected static function put(iterable $records, string $to): void
    {
        $handle = fopen($to, 'w');
        if (false === $handle) {
            throw new UnreadableTable('The disk is full. Nothing was imported.');
        }
        try {
            $written = 0;
            foreach ($records as $record) {
                $line = implode(',', array_map(static fn (?string $cell): string => self::field($cell), $record));
                fwrite($handle, ('' === $line ? '""' : $line)."\n");
                ++$written;
            }
        } finally {
            fclose($handle);
        }
        if (0 === $written) {
            throw UnreadableTable::empty();
        }
    }

    private static function field(?string $cell): string
    {
        if (null === $cell || '' === $cell) {
            return '';
        }
        $cell = str_replace("\0", '', $cell);

        return strpbrk($cell, "\",\n\r") || ' ' === $cell[0] ? '"'.str_replace('"', '""', $cell).'"' : $cell;
    }
}
