<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/**
 * Reads delimited text in blocks and hands out its records column by column.
 *
 * RFC 4180 with the usual leniencies: line ends LF, CRLF or CR; quotes inside unquoted fields are letters; text after a closing
 * quote is kept. Records with too few or too many fields are repaired while they are rare, and each repair is named.
 */
final class CsvReader
{
    public const MOST_COLUMNS = 10000;
    public const LONGEST_RECORD = 64 << 20;
    private const REPAIRS_KEPT = 100;

    /** @var list<string> */
    private array $names = [];
    /** @var list<string> sentences, the first hundred */
    private array $repairs = [];
    private int $records = 0;
    private int $line = 1;
    private int $ragged = 0;
    private int $firstRagged = 0;
    private int $firstRaggedFields = 0;
    private bool $headerRead = false;

    /** @param iterable<string> $blocks the bytes of the file, in order */
    public function __construct(private readonly iterable $blocks, private readonly Dialect $dialect)
    {
    }

    /** @return list<string> known once the first batch has been asked for */
    public function names(): array
    {
        return $this->names;
    }

    /** @return list<string> what was mended, in sentences */
    public function repairs(): array
    {
        $repairs = $this->repairs;
        if ($this->ragged > self::REPAIRS_KEPT) {
            $repairs[] = \sprintf('%s more lines with too few or too many fields were mended in the same way.', number_format($this->ragged - self::REPAIRS_KEPT));
        }

        return $repairs;
    }

    public function records(): int
    {
        return $this->records;
    }

    /**
     * @param int<1, max>     $size  rows per batch; the last may be shorter
     * @param array{int, int} $share [i, n]: fill every n-th column from the i-th on, leave the others empty
     *
     * @return \Generator<int, Batch>
     */
    public function batches(int $size = 4096, array $share = [0, 1]): \Generator
    {
        $wanted = null;
        $columns = [];
        $rows = 0;
        $width = 0;
        $delimiter = $this->dialect->delimiter;
        $quote = $this->dialect->quote;
        $open = false;
        \assert('' !== $delimiter);
        $pending = [];
        $pendingBytes = 0;
        $startedAt = 0;
        foreach ($this->lineGroups() as [$lines, $carriage]) {
            foreach ($lines as $line) {
                $at = $this->line++;
                // The CR before a line end belongs to the line end, unless a quoted field goes on.
                $raw = $line.$carriage;
                if ('' === $carriage && '' !== $line && "\r" === $line[-1]) {
                    $line = substr($line, 0, -1);
                }
                $open = false;
                if ([] !== $pending) {
                    // Inside a quoted field only a line with an odd number of quotes can close it.
                    $pending[] = $raw;
                    $pendingBytes += \strlen($raw);
                    if ($pendingBytes > self::LONGEST_RECORD) {
                        throw UnreadableTable::openQuote($startedAt);
                    }
                    if (0 === substr_count($line, $quote) % 2) {
                        continue;
                    }
                    $fields = self::fields(implode("\n", [...\array_slice($pending, 0, -1), $line]), $delimiter, $quote, $open);
                    if ($open) {
                        continue;
                    }
                    $pending = [];
                    $at = $startedAt;
                } elseif (str_contains($line, $quote)) {
                    $fields = self::simpleFields($line, $delimiter, $quote) ?? self::fields($line, $delimiter, $quote, $open);
                    if ($open) {
                        $pending = [$raw];
                        $pendingBytes = \strlen($raw);
                        $startedAt = $at;
                        continue;
                    }
                } elseif ('' === $line && 1 !== $width) {
                    continue;
                } else {
                    $fields = explode($delimiter, $line);
                }
                if (!$this->headerRead) {
                    $width = $this->readHeader($fields);
                    $columns = array_fill(0, $width, []);
                    if (1 !== $share[1]) {
                        $wanted = range($share[0], max($share[0], $width - 1), $share[1]);
                        $wanted = array_values(array_filter($wanted, static fn (int $j) => $j < $width));
                    }
                    if ($this->dialect->header) {
                        continue;
                    }
                }
                if (\count($fields) !== $width) {
                    $fields = $this->mend($fields, $width, $at);
                }
                ++$this->records;
                if (null === $wanted) {
                    foreach ($fields as $j => $field) {
                        $columns[$j][] = $field;
                    }
                } else {
                    foreach ($wanted as $j) {
                        $columns[$j][] = $fields[$j];
                    }
                }
                if (++$rows === $size) {
                    yield new Batch($columns, $rows);
                    $columns = array_fill(0, $width, []);
                    $rows = 0;
                }
            }
        }
        if ([] !== $pending) {
            throw UnreadableTable::openQuote($startedAt);
        }
        if ($this->ragged > 10 && $this->ragged > 0.01 * $this->records) {
            throw UnreadableTable::raggedRow($this->firstRagged, $width, $this->firstRaggedFields, $this->ragged, $this->records);
        }
        if (!$this->headerRead) {
            throw UnreadableTable::empty();
        }
        if (0 === $this->records) {
            throw UnreadableTable::onlyHeader($width);
        }
        if ($rows > 0) {
            yield new Batch($columns, $rows);
        }
    }

    /**
     * The same for the usual record, in which few fields are quoted and quotes stand at their ends: cut at every delimiter, then put
     * together what was cut inside quotes. Null when the record is of another sort.
     *
     * @param non-empty-string $delimiter
     *
     * @return ?list<string>
     */
    private static function simpleFields(string $line, string $delimiter, string $quote): ?array
    {
        $fields = explode($delimiter, $line);
        $shift = 0;
        $last = \count($fields) - 1;
        // Nothing before the first quote needs a look.
        for ($i = substr_count($line, $delimiter, 0, (int) strpos($line, $quote)); $i <= $last; ++$i) {
            $field = $fields[$i];
            if ('' === $field || $field[0] !== $quote) {
                if ($shift > 0) {
                    $fields[$i - $shift] = $field;
                }
                continue;
            }
            $to = $i - $shift;
            while (1 === substr_count($field, $quote) % 2) {
                if (++$i > $last) {
                    return null;
                }
                $field .= $delimiter.$fields[$i];
                ++$shift;
            }
            if ($field[-1] !== $quote) {
                return null;
            }
            $inside = substr($field, 1, -1);
            $fields[$to] = str_contains($inside, $quote) ? str_replace($quote.$quote, $quote, $inside) : $inside;
        }

        return array_values(0 === $shift ? $fields : \array_slice($fields, 0, $last + 1 - $shift));
    }

    /**
     * The fields of one record. `$open` tells that a quoted field goes on in the next line.
     *
     * @return list<string>
     */
    public static function fields(string $line, string $delimiter, string $quote, bool &$open = false): array
    {
        $open = false;
        $fields = [];
        $at = 0;
        $length = \strlen($line);
        while (true) {
            if ($at < $length && $line[$at] === $quote) {
                $field = '';
                ++$at;
                while (true) {
                    $close = strpos($line, $quote, $at);
                    if (false === $close) {
                        $open = true;
                        $fields[] = $field.substr($line, $at);

                        return $fields;
                    }
                    $field .= substr($line, $at, $close - $at);
                    if ($close + 1 < $length && $line[$close + 1] === $quote) {
                        $field .= $quote;
                        $at = $close + 2;
                        continue;
                    }
                    $at = $close + 1;
                    break;
                }
                $rest = strcspn($line, $delimiter, $at);
                $fields[] = $rest > 0 ? $field.substr($line, $at, $rest) : $field;
                $at += $rest;
            } else {
                $run = strcspn($line, $delimiter, $at);
                $fields[] = substr($line, $at, $run);
                $at += $run;
            }
            if ($at >= $length) {
                return $fields;
            }
            ++$at;
        }
    }

    /**
     * Whole lines, many at a time.
     *
     * @return \Generator<int, array{list<string>, string}> lines, and what was cut off before each line end
     */
    private function lineGroups(): \Generator
    {
        $carry = '';
        foreach ($this->decoded() as $block) {
            $carry .= $block;
            $end = strrpos($block, "\n");
            if (false === $end) {
                if (\strlen($carry) > self::LONGEST_RECORD) {
                    throw UnreadableTable::longRecord($this->line, self::LONGEST_RECORD);
                }
                continue;
            }
            $end += \strlen($carry) - \strlen($block);
            $whole = substr($carry, 0, $end);
            $carry = substr($carry, $end + 1);
            // Where every line ends with CRLF, cutting there spares taking the CR off each line.
            $carriage = str_ends_with($whole, "\r") && substr_count($whole, "\r\n") === substr_count($whole, "\n");
            yield $carriage ? [explode("\r\n", substr($whole, 0, -1)), "\r"] : [explode("\n", $whole), ''];
        }
        if ('' !== $carry) {
            $lines = explode("\n", $carry);
            if ('' === end($lines)) {
                array_pop($lines);
            }
            yield [$lines, ''];
        }
    }

    /** @return \Generator<int, string> blocks of UTF-8 with LF or CRLF line ends */
    private function decoded(): \Generator
    {
        $encoding = $this->dialect->encoding;
        $carry = '';
        $first = true;
        $line = 1;
        foreach ($this->blocks as $block) {
            $bytes = $carry.$block;
            $carry = '';
            if ('UTF-8' === $encoding) {
                // Keep back a letter that the block cuts in two.
                $keep = 0;
                $length = \strlen($bytes);
                for ($i = 1; $i <= 3 && $i <= $length; ++$i) {
                    $byte = \ord($bytes[$length - $i]);
                    if ($byte >= 0xC0) {
                        $need = $byte >= 0xF0 ? 4 : ($byte >= 0xE0 ? 3 : 2);
                        $keep = $need > $i ? $i : 0;
                        break;
                    }
                    if ($byte < 0x80) {
                        break;
                    }
                }
                if ($keep > 0) {
                    $carry = substr($bytes, -$keep);
                    $bytes = substr($bytes, 0, -$keep);
                }
                if (!mb_check_encoding($bytes, 'UTF-8')) {
                    throw UnreadableTable::brokenEncoding($line + self::brokenLine($bytes), 'UTF-8');
                }
                $text = $bytes;
            } elseif (str_starts_with($encoding, 'UTF-16')) {
                if (1 === \strlen($bytes) % 2) {
                    $carry = substr($bytes, -1);
                    $bytes = substr($bytes, 0, -1);
                }
                $text = (string) mb_convert_encoding($bytes, 'UTF-8', $encoding);
            } else {
                $text = (string) mb_convert_encoding($bytes, 'UTF-8', $encoding);
            }
            if ($first && '' !== $text) {
                $text = str_starts_with($text, "\u{FEFF}") ? substr($text, 3) : $text;
                $first = false;
            }
            if (false !== $nul = strpos($text, "\0")) {
                throw UnreadableTable::binary($nul);
            }
            $line += substr_count($text, "\n");
            yield $this->dialect->carriageReturns ? str_replace("\r", "\n", $text) : $text;
        }
        if ('' !== $carry) {
            throw UnreadableTable::brokenEncoding($line, $encoding);
        }
    }

    private static function brokenLine(string $bytes): int
    {
        foreach (explode("\n", $bytes) as $i => $line) {
            if (!mb_check_encoding($line, 'UTF-8')) {
                return $i;
            }
        }

        return 0;
    }

    /** @param list<string> $fields */
    private function readHeader(array $fields): int
    {
        $this->headerRead = true;
        $width = \count($fields);
        if ($width > self::MOST_COLUMNS) {
            throw UnreadableTable::tooManyColumns($width, self::MOST_COLUMNS);
        }
        $taken = [];
        foreach ($fields as $i => $field) {
            $name = $this->dialect->header ? trim((string) preg_replace('/\s+/u', ' ', $field)) : '';
            if ('' === $name) {
                $name = 'column_'.($i + 1);
                if ($this->dialect->header) {
                    $this->repairs[] = \sprintf('Column %d had no name and is called %s.', $i + 1, $name);
                }
            }
            $unique = $name;
            for ($n = 2; isset($taken[$unique]); ++$n) {
                $unique = $name.'_'.$n;
            }
            if ($unique !== $name) {
                $this->repairs[] = \sprintf('The name %s stood twice; column %d is called %s.', $name, $i + 1, $unique);
            }
            $taken[$unique] = true;
            $this->names[] = $unique;
        }

        return $width;
    }

    /**
     * @param list<string> $fields
     *
     * @return list<string>
     */
    private function mend(array $fields, int $width, int $line): array
    {
        $found = \count($fields);
        if (1 === ++$this->ragged) {
            $this->firstRagged = $line;
            $this->firstRaggedFields = $found;
        }
        if ($found < $width) {
            $note = \sprintf('Line %s had %d fields of %d; the last %s left missing.', number_format($line), $found, $width, 1 === $width - $found ? 'one is' : ($width - $found).' are');
            $fields = array_pad($fields, $width, '');
        } else {
            $extra = \array_slice($fields, $width);
            $note = '' === implode('', $extra)
                ? \sprintf('Line %s ended with %d empty fields too many; they were left out.', number_format($line), $found - $width)
                : \sprintf('Line %s had %d fields instead of %d; the text beyond was kept in the last column.', number_format($line), $found, $width);
            $last = '' === implode('', $extra) ? $fields[$width - 1] : implode($this->dialect->delimiter, \array_slice($fields, $width - 1));
            $fields = [...\array_slice($fields, 0, $width - 1), $last];
        }
        if ($this->ragged <= self::REPAIRS_KEPT) {
            $this->repairs[] = $note;
        }

        return $fields;
    }
}
