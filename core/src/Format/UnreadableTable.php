<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Refusal;

/** A file that cannot be read as a table; the message is a sentence for the analyst. */
final class UnreadableTable extends \RuntimeException implements Refusal
{
    public static function empty(): self
    {
        return new self('The file is empty: there is no line to read. Nothing was imported.');
    }

    public static function onlyHeader(int $columns): self
    {
        return new self(\sprintf('The file has a header with %d columns but no record below it. Nothing was imported.', $columns));
    }

    public static function binary(int $offset): self
    {
        return new self(\sprintf('The file holds a NUL byte at position %s, so it is not a text table (perhaps a picture, an archive or a program). Save it as CSV and try again. Nothing was imported.', number_format($offset)));
    }

    public static function brokenEncoding(int $line, string $encoding): self
    {
        return new self(\sprintf('Line %s holds letters that are not %s. Choose another encoding and try again. Nothing was imported.', number_format($line), $encoding));
    }

    public static function raggedRow(int $line, int $expected, int $found, int $ragged, int $records): self
    {
        return new self(\sprintf('Line %s has %d fields where the header names %d, and so do %s of %s records: too many to repair. Check the delimiter and the quotes. Nothing was imported.', number_format($line), $found, $expected, number_format($ragged), number_format($records)));
    }

    public static function openQuote(int $line): self
    {
        return new self(\sprintf('A quote opened in line %s is never closed. Close it, or choose another quote mark. Nothing was imported.', number_format($line)));
    }

    public static function tooManyColumns(int $found, int $most): self
    {
        return new self(\sprintf('The first line names %s columns; at most %s can be read. Nothing was imported.', number_format($found), number_format($most)));
    }

    public static function notJson(int $line): self
    {
        return new self(\sprintf('Line %s is not a JSON object. A file of JSON Lines has one object in each line. Nothing was imported.', number_format($line)));
    }

    public static function longRecord(int $line, int $bytes): self
    {
        return new self(\sprintf('The record at line %s is longer than %s MB. Check the quotes and the line ends. Nothing was imported.', number_format($line), number_format($bytes / 1048576)));
    }

    public static function somethingElse(string $what): self
    {
        return new self(\sprintf('The file is %s. A table is read from CSV, JSON, XLSX, ODS or SQLite. Nothing was imported.', $what));
    }

    public static function jsonLists(): self
    {
        return new self('The file holds JSON lists without names for their values. Save it as one object a line, or as CSV. Nothing was imported.');
    }
}
