<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** Writes RFC 4180 lines; text that a spreadsheet would run as a formula is guarded by a leading apostrophe. */
final class CsvWriter
{
    /** @param list<?string> $cells null = missing */
    public static function line(array $cells, bool $guard = true): string
    {
        $out = [];
        foreach ($cells as $cell) {
            $cell ??= '';
            if ($guard && '' !== $cell && str_contains("=+-@\t\r", $cell[0]) && !is_numeric($cell)) {
                $cell = "'".$cell;
            }
            $out[] = strpbrk($cell, ",\"\r\n") || '' !== $cell && (' ' === $cell[0] || ' ' === $cell[-1]) ? '"'.str_replace('"', '""', $cell).'"' : $cell;
        }

        return implode(',', $out)."\r\n";
    }
}
