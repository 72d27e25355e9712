<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/**
 * Reads delimited text in blocks and hands out its records column by column.
 *
 * RFC 4180 with the usual leniencies: line ends LF, CRLF or CR; quotes inside unquoted fields are letters; text after a closing
 * quote is kept. Records with too few or too many fields are repaired while they are rare, and each repair is named.
 */
final class CsvReader implements RecordReader
{
    public const MOST_COLUMNS = 10000;
    public const LONGEST_RECORD = 64 << 20;
    /** Rows handed out at once: so few that their cells are still in the processor's cache when they are encoded. */
    public const BATCH = 128;
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
    private readonly Decoding $decoding;

    /** @param iterable<string> $blocks the bytes of the file, in order */
    public function __construct(iterable $blocks, private readonly Dialect $dialect)
    {
        $this->decoding = new Decoding($blocks, $dialect->encoding, $dialect->carriageReturns);
    }

    public function names(): array
    {
        return $this->names;
    }

    public function repairs(): array
    {
        $repairs = [...$this->repairs, ...$this->decoding->repairs()];
        if ($this->ragged > self::REPAIRS_KEPT) {
            $repairs[] = \sprintf('%s more lines with too few or too many fields were mended in the same way.', number_format($this->ragged - self::REPAIRS_KEPT));
        }

        return $repairs;
    }

    public function records(): int
    {
        return $this->records;
    }

    public function batches(int $size = self::BATCH, array $share = [0, 1]): \Generator
    {
        $wanted = [];
        $block = [];
        $rows = 0;
        $width = 0;
        $comment = $this->dialect->comment;
        $commented = '' !== $comment;
        $delimiter = $this->dialect->delimiter;
        $quote = $this->dialect->quote;
        $open = false;
        \assert('' !== $delimiter && '' !== $quote);
        $pending = null;
        $startedAt = 0;
        $skip = $this->dialect->skip;
        foreach ($this->lineGroups() as [$lines, $carriage, $mixed]) {
            if ($skip > 0) {
                // What stands above the header is no part of the table, whatever it is.
                $gone = min($skip, \count($lines));
                $skip -= $gone;
                $this->line += $gone;
                $lines = \array_slice($lines, $gone);
            }
            foreach ($lines as $line) {
                $at = $this->line++;
                $raw = $line;
                // The CR before a line end belongs to the line end, unless a quoted field goes on.
                if ($mixed && '' !== $line && "\r" === $line[-1]) {
                    $line = substr($line, 0, -1);
                }
                if (null !== $pending) {
                    // Inside a quoted field only a line with an odd number of quotes can close it.
                    if (\strlen($pending) + \strlen($raw) > self::LONGEST_RECORD) {
                        throw UnreadableTable::openQuote($startedAt);
                    }
                    $fields = [];
                    $goesOn = 0 === substr_count($line, $quote) % 2;
                    if (!$goesOn) {
                        $fields = self::fields($pending."\n".$line, $delimiter, $quote, $open);
                    }
                    if ($goesOn || $open) {
                        $pending .= "\n".$raw.$carriage;
                        continue;
                    }
                    $pending = null;
                    $at = $startedAt;
                } elseif ($commented && str_starts_with($line, $comment)) {
                    continue;
                } elseif (str_contains($line, $quote)) {
                    $fields = self::simpleFields($line, $delimiter, $quote);
                    if (null === $fields) {
                        $fields = self::fields($line, $delimiter, $quote, $open);
                        if ($open) {
                            $pending = $raw.$carriage;
                            $startedAt = $at;
                            continue;
                        }
                    }
                } elseif ('' === $line && 1 !== $width) {
                    continue;
                } else {
                    $fields = explode($delimiter, $line);
                }
                if (!$this->headerRead) {
                    $width = $this->readHeader($fields);
                    for ($j = $share[0]; $j < $width; $j += $share[1]) {
                        $wanted[] = $j;
                    }
                    if ($this->dialect->header) {
                        continue;
                    }
                }
                if (\count($fields) !== $width) {
                    $fields = $this->mend($fields, $width, $at);
                }
                $block[] = $fields;
                if (++$rows === $size) {
                    $this->records += $rows;
                    yield self::turned($block, $width, $wanted);
                    $block = [];
                    $rows = 0;
                }
            }
        }
        $this->records += $rows;
        if (null !== $pending) {
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
            yield self::turned($block, $width, $wanted);
        }
    }

    /**
     * Records turned into columns, in one call of the language for each.
     *
     * @param list<list<string>> $records
     * @param list<int>          $wanted
     */
    private static function turned(array $records, int $width, array $wanted): Batch
    {
        $columns = array_fill(0, $width, []);
        foreach ($wanted as $j) {
            $columns[$j] = array_column($records, $j);
        }

        return new Batch($columns, \count($records));
    }

    /**
     * The fields of the usual record, in which quotes stand at the ends of fields: cut at the quotes, every second piece lies inside
     * of them, and only the others are cut at delimiters. Null when the record is of another sort.
     *
     * @param non-empty-string $delimiter
     * @param non-empty-string $quote
     *
     * @return ?list<string>
     */
    private static function simpleFields(string $line, string $delimiter, string $quote): ?array
    {
        $pieces = explode($quote, $line);
        $last = \count($pieces) - 1;
        $fields = explode($delimiter, $pieces[0]);
        for ($i = 1; $i < $last; $i += 2) {
            $place = \count($fields) - 1;
            if ('' !== $fields[$place]) {
                return null;
            }
            $field = $pieces[$i];
            while ('' === $pieces[$i + 1] && $i + 2 < $last) {
                $i += 2;
                $field .= $quote.$pieces[$i];
            }
            $fields[$place] = $field;
            $after = $pieces[$i + 1];
            if ('' !== $after) {
                if ($after[0] !== $delimiter) {
                    return null;
                }
                array_push($fields, ...explode($delimiter, substr($after, 1)));
            }
        }

        return 0 === $last % 2 ? $fields : null;
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
     * @return \Generator<int, array{list<string>, string, bool}> lines, what was cut off before each line end, and whether a line may end with a CR
     */
    private function lineGroups(): \Generator
    {
        $carry = '';
        foreach ($this->decoding->blocks() as $block) {
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
            yield $carriage ? [explode("\r\n", substr($whole, 0, -1)), "\r", false] : [explode("\n", $whole), '', str_contains($whole, "\r")];
        }
        if ('' !== $carry) {
            $lines = explode("\n", $carry);
            if ('' === end($lines)) {
                array_pop($lines);
            }
            yield [$lines, '', true];
        }
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
