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
            if ($guard && '' !== $cell && !ctype_alnum($cell[0]) && self::runs($cell)) {
                $cell = "'".$cell;
            }
            $out[] = strpbrk($cell, ",\"\r\n") || '' !== $cell && (' ' === $cell[0] || ' ' === $cell[-1]) ? '"'.str_replace('"', '""', $cell).'"' : $cell;
        }

        return implode(',', $out)."\r\n";
    }

    /** Whether a spreadsheet would run it: what stands before the sign and is not seen does not matter, nor how wide the sign is. */
    private static function runs(string $cell): bool
    {
        return !is_numeric($cell) && 1 === preg_match('/^(?:[\t\r\n]|[\s\p{Z}\p{C}"\']*[=+\-@\x{FF1D}\x{FF0B}\x{FF0D}\x{FF20}\x{2212}])/u', $cell);
    }
}
