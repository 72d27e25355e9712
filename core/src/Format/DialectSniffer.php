<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** Recognizes how a delimited text file is written from its first bytes. */
final class DialectSniffer
{
    public const SAMPLE = 1 << 20;
    /** Title lines above the header, at most. */
    private const MOST_TITLES = 8;
    /** Bytes from which on their sort can be told. */
    private const ENOUGH = 256;

    public static function detect(string $sample): Dialect
    {
        if ('' === trim($sample, " \t\r\n\u{FEFF}")) {
            throw UnreadableTable::empty();
        }
        self::refuse($sample);
        $encoding = self::encoding($sample);
        $text = self::decode($sample, $encoding);
        if (false !== $nul = strpos($text, "\0")) {
            throw UnreadableTable::binary($nul);
        }
        if (self::isJson($text)) {
            return new Dialect($encoding, carriageReturns: !str_contains($text, "\n") && str_contains($text, "\r"), form: Dialect::JSON_LINES);
        }
        $carriageReturns = !str_contains($text, "\n") && str_contains($text, "\r");
        $lines = preg_split('/\r\n|\n|\r/', $text, 60) ?: [];
        if (\count($lines) > 1 && \strlen($sample) >= self::SAMPLE) {
            array_pop($lines);
        }
        // Some programs write how they parted the fields above all others.
        $said = 1 === preg_match('/^"?sep=(.)"?$/i', trim($lines[0] ?? ''), $found) && \in_array($found[1], Dialect::DELIMITERS, true) ? $found[1] : null;
        $delimiter = $said ?? self::delimiter($lines);
        $skip = null !== $said ? 1 : self::titles($lines, $delimiter);
        $lines = \array_slice($lines, $skip);
        $decimal = ',' === $delimiter ? '.' : self::decimal($lines, $delimiter);

        return new Dialect($encoding, $delimiter, '"', $decimal, self::hasHeader($lines, $delimiter), $carriageReturns, $skip, dates: self::dates($text));
    }

    /** Files that are something else altogether, named. */
    private static function refuse(string $sample): void
    {
        $begin = ltrim(substr($sample, 0, 1024), "\u{FEFF} \t\r\n");
        $what = match (true) {
            str_starts_with($begin, '%PDF-') => 'a PDF document',
            str_starts_with($sample, "\x1F\x8B") => 'a compressed file (gzip): unpack it first',
            str_starts_with($sample, "7z\xBC\xAF"), str_starts_with($sample, 'Rar!') => 'a compressed archive: unpack it first',
            str_starts_with($sample, "\x89PNG"), str_starts_with($sample, "\xFF\xD8\xFF"), str_starts_with($sample, 'GIF8') => 'a picture',
            1 === preg_match('/^<(!doctype\s+html|html)/i', $begin) => 'a web page',
            str_starts_with($begin, '<?xml') || 1 === preg_match('#^<([a-z][\w:.-]*)(\s[^<>]*)?>.*(</\1>|/>)#is', $begin) => 'an XML document',
            default => null,
        };
        if (null !== $what) {
            throw UnreadableTable::somethingElse($what);
        }
        // Bytes by chance: hardly any text has control characters, or so few of its bytes in letters and blanks.
        $part = substr($sample, 0, 4096);
        $controls = \strlen((string) preg_replace('/[^\x01-\x08\x0B\x0E-\x1F\x7F]/', '', $part));
        if (\strlen($part) >= self::ENOUGH && $controls > 0.05 * \strlen($part)) {
            throw UnreadableTable::somethingElse('no text: its bytes are not letters');
        }
    }

    /** One object a line, or a list of objects. */
    private static function isJson(string $text): bool
    {
        $begin = ltrim($text);
        if (1 === preg_match('/^\[\s*\{\s*"/', $begin)) {
            return true;
        }
        $line = strtok($begin, "\r\n");
        $first = false === $line ? '' : trim($line);
        if ('' !== $first && '[' === $first[0] && \is_array(json_decode($first))) {
            throw UnreadableTable::jsonLists();
        }

        return '' !== $first && '{' === $first[0] && \is_array(json_decode($first, true));
    }

    private static function encoding(string $sample): string
    {
        if (str_starts_with($sample, "\xFF\xFE")) {
            return 'UTF-16LE';
        }
        if (str_starts_with($sample, "\xFE\xFF")) {
            return 'UTF-16BE';
        }
        if (str_starts_with($sample, "\xEF\xBB\xBF")) {
            return 'UTF-8';
        }
        $even = $odd = 0;
        $length = min(4096, \strlen($sample));
        for ($i = 0; $i + 1 < $length; $i += 2) {
            $even += "\0" === $sample[$i] ? 1 : 0;
            $odd += "\0" === $sample[$i + 1] ? 1 : 0;
        }
        if ($odd > 0.4 * $length / 2 && 0 === $even) {
            return 'UTF-16LE';
        }
        if ($even > 0.4 * $length / 2 && 0 === $odd) {
            return 'UTF-16BE';
        }
        // The sample may end inside a letter of up to four bytes.
        for ($cut = 0; $cut < 4; ++$cut) {
            if (mb_check_encoding(substr($sample, 0, \strlen($sample) - $cut), 'UTF-8')) {
                return 'UTF-8';
            }
        }

        // A few broken letters among many good ones: reading it otherwise would break those.
        [$good, $bad] = self::letters($sample);

        return $good > $bad ? 'UTF-8' : 'Windows-1252';
    }

    /** @return array{int, int} letters beyond ASCII that are UTF-8, and pieces that are not */
    private static function letters(string $sample): array
    {
        $mended = mb_scrub($sample, 'UTF-8');
        $good = (int) preg_match_all('/[\x{80}-\x{10FFFF}]/u', $mended);
        // What is broken stands as a question mark.
        $bad = substr_count($mended, '?') - substr_count($sample, '?');

        return [$good, $bad];
    }

    /**
     * What the beginning of a file does not say in the encoding it is read in, as a sentence with what another reading would do.
     */
    public static function remark(string $sample, string $encoding): ?string
    {
        if ('UTF-8' !== $encoding || mb_check_encoding($sample, 'UTF-8')) {
            return null;
        }
        $lines = Decoding::brokenLines(substr($sample, 0, (int) strrpos($sample, "\n") ?: \strlen($sample)));
        [$good] = self::letters($sample);

        return [] === $lines ? null : \sprintf('Line %s%s a letter that is not UTF-8; it will stand as %s. Read as Windows-1252, %s that are right would be wrong.', implode(', ', array_map(static fn (int $l): string => number_format($l + 1), \array_slice($lines, 0, 3))), \count($lines) > 3 ? \sprintf(' and %d more hold', \count($lines) - 3) : (1 === \count($lines) ? ' holds' : ' hold'), Decoding::REPLACED, 1 === $good ? 'one letter' : number_format($good).' letters');
    }

    private static function decode(string $sample, string $encoding): string
    {
        if ('UTF-8' === $encoding) {
            return str_starts_with($sample, "\xEF\xBB\xBF") ? substr($sample, 3) : $sample;
        }
        $text = mb_convert_encoding($sample, 'UTF-8', $encoding);

        return ltrim(\is_string($text) ? $text : '', "\u{FEFF}");
    }

    /** @param list<string> $lines */
    private static function delimiter(array $lines): string
    {
        $best = ',';
        $bestScore = -1.0;
        foreach (Dialect::DELIMITERS as $candidate) {
            $counts = [];
            foreach ($lines as $line) {
                if ('' !== $line) {
                    $counts[] = \count(CsvReader::fields($line, $candidate, '"'));
                }
            }
            if ([] === $counts) {
                continue;
            }
            $frequency = array_count_values($counts);
            arsort($frequency);
            $width = array_key_first($frequency);
            $score = $width < 2 ? 0.0 : $frequency[$width] / \count($counts) + min($width, 50) / 1000;
            if ($score > $bestScore) {
                [$best, $bestScore] = [$candidate, $score];
            }
        }

        return $best;
    }

    /** Month first only where some date cannot be read day first, and none the other way round. */
    private static function dates(string $text): string
    {
        preg_match_all('#(?<![\d./-])(\d{1,2})([/.-])(\d{1,2})\2\d{4}(?![\d./-])#', substr($text, 0, 1 << 18), $found, \PREG_SET_ORDER);
        $dayFirst = $monthFirst = false;
        foreach ($found as [, $one, , $two]) {
            $dayFirst = $dayFirst || (int) $one > 12;
            $monthFirst = $monthFirst || (int) $two > 12;
        }

        return $monthFirst && !$dayFirst ? Dialect::MONTH_FIRST : Dialect::DAY_FIRST;
    }

    /**
     * Lines above the header that are no records: titles, of hardly any field, where the lines below agree on how many they have.
     *
     * @param list<string> $lines
     */
    private static function titles(array $lines, string $delimiter): int
    {
        $widths = array_map(static fn (string $line): int => '' === trim($line) ? 0 : \count(CsvReader::fields($line, $delimiter, '"')), $lines);
        $filled = array_values(array_filter($widths));
        if (\count($filled) < 4) {
            return 0;
        }
        $often = array_count_values($filled);
        arsort($often);
        $width = (int) array_key_first($often);
        if ($width < 3 || $often[$width] < 0.6 * \count($filled)) {
            return 0;
        }
        $skip = 0;
        while ($skip < self::MOST_TITLES && isset($widths[$skip]) && 2 * $widths[$skip] < $width) {
            ++$skip;
        }

        // An empty line alone is skipped anyway.
        return $skip < \count($widths) && $widths[$skip] >= $width && max([0, ...\array_slice($widths, 0, $skip)]) > 0 ? $skip : 0;
    }

    /**
     * Both marks are weighed over all cells of all columns: 24.558,26 tells for the comma, 24,558.26 for the point, and so does a mark that
     * cannot part thousands; 24.558 alone tells little.
     *
     * @param list<string> $lines
     */
    private static function decimal(array $lines, string $delimiter): string
    {
        $comma = $point = 0.0;
        foreach (\array_slice($lines, 1) as $line) {
            foreach (CsvReader::fields($line, $delimiter, '"') as $field) {
                $field = (string) preg_replace('/^[(€$£¥\s]*-?|[)%€$£¥\s]*$/u', '', $field);
                if (1 === preg_match('/^\d{1,3}(\.\d{3})+,\d+$/', $field)) {
                    $comma += 2;
                } elseif (1 === preg_match('/^\d{1,3}(,\d{3})+\.\d+$/', $field)) {
                    $point += 2;
                } elseif (1 === preg_match('/^\d+([.,])(\d+)$/', $field, $found)) {
                    $weight = 3 === \strlen($found[2]) && '0' !== $field[0] ? 0.1 : 1.0;
                    if (',' === $found[1]) {
                        $comma += $weight;
                    } else {
                        $point += $weight;
                    }
                }
            }
        }

        return $comma > $point ? ',' : '.';
    }

    /** @param list<string> $lines */
    private static function hasHeader(array $lines, string $delimiter): bool
    {
        $first = CsvReader::fields($lines[0] ?? '', $delimiter, '"');
        $plain = array_filter($first, static fn (string $f) => is_numeric(trim($f)) || 1 === preg_match('/^\d{4}-\d\d-\d\d/', $f));
        if ([] === $plain) {
            return true;
        }
        // Names like 2024 are numbers too: then a text that stands over nothing but numbers tells that it is a name.
        $missing = array_flip(Dialect::MISSING);
        if (\count(array_unique($first)) < \count($first)) {
            return false;
        }
        $below = array_map(static fn (string $line) => CsvReader::fields($line, $delimiter, '"'), array_filter(\array_slice($lines, 1), static fn (string $l) => '' !== $l));
        foreach (array_diff_key($first, $plain) as $j => $field) {
            $cells = array_filter(array_column($below, $j), static fn (string $c) => !isset($missing[trim($c)]));
            if (!isset($missing[trim($field)]) && [] !== $cells && [] === array_filter($cells, static fn (string $c) => !is_numeric(trim($c)))) {
                return true;
            }
        }

        return false;
    }
}
