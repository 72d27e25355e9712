<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** How a delimited text file is written. */
final readonly class Dialect
{
    public const ENCODINGS = ['UTF-8', 'UTF-16LE', 'UTF-16BE', 'Windows-1252', 'ISO-8859-1'];
    public const DELIMITERS = [',', ';', "\t", '|'];
    public const TEXT = 'text';
    public const JSON_LINES = 'JSON Lines';
    public const DAY_FIRST = 'day first';
    public const MONTH_FIRST = 'month first';
    public const QUOTES = ['"', "'"];
    public const THOUSANDS = ['', ' ', "'"];
    public const MOST_SKIPPED = 1000;
    public const MISSING = ['', 'NA', 'N/A', 'n/a', 'NULL', 'null', 'NaN', 'nan', '#N/A'];

    /**
     * @param int          $skip      lines before the header that are no records
     * @param string       $comment   what lines begin with that are not read; '' = there are none
     * @param list<string> $missing   the cells that stand for "missing"; the empty cell always does
     * @param string       $form      delimited text, or one JSON object a line; then only the marks for missing matter
     * @param string       $dates     what 03/04/2026 means: the third of April (day first) or the fourth of March (month first)
     * @param string       $thousands a mark inside numbers besides the usual one: a blank or an apostrophe; '' = none
     *
     * @throws \InvalidArgumentException The encoding "…" is not known; choose one of …. and more
     */
    public function __construct(
        public string $encoding = 'UTF-8',
        public string $delimiter = ',',
        public string $quote = '"',
        public string $decimal = '.',
        public bool $header = true,
        public bool $carriageReturns = false,
        public int $skip = 0,
        public string $comment = '',
        public array $missing = self::MISSING,
        public string $thousands = '',
        public string $form = self::TEXT,
        public string $dates = self::DAY_FIRST,
    ) {
        if (!\in_array($encoding, self::ENCODINGS, true)) {
            throw new \InvalidArgumentException(\sprintf('The encoding "%s" is not known; choose one of %s.', $encoding, implode(', ', self::ENCODINGS)));
        }
        if (1 !== \strlen($delimiter) || $delimiter === $quote) {
            throw new \InvalidArgumentException('The delimiter is one character that is not the quote mark.');
        }
        if (!\in_array($form, [self::TEXT, self::JSON_LINES], true)) {
            throw new \InvalidArgumentException(\sprintf('A table is read from %s or %s.', self::TEXT, self::JSON_LINES));
        }
        if (!\in_array($quote, self::QUOTES, true)) {
            throw new \InvalidArgumentException('The quote mark is " or \'.');
        }
        if ($skip < 0 || $skip > self::MOST_SKIPPED) {
            throw new \InvalidArgumentException(\sprintf('Between 0 and %d lines can be skipped.', self::MOST_SKIPPED));
        }
        if (\strlen($comment) > 4 || '' !== $comment && (str_contains($comment, $quote) || str_contains($comment, $delimiter))) {
            throw new \InvalidArgumentException('Lines that are comments begin with one to four letters, none of them the delimiter or the quote mark.');
        }
        if (!\in_array($thousands, self::THOUSANDS, true)) {
            throw new \InvalidArgumentException('Besides the usual one, the thousands mark is a blank or an apostrophe.');
        }
        if (!\in_array($dates, [self::DAY_FIRST, self::MONTH_FIRST], true)) {
            throw new \InvalidArgumentException('Dates such as 03/04/2026 are read day first or month first.');
        }
        if (!\in_array($decimal, ['.', ','], true)) {
            throw new \InvalidArgumentException('The decimal mark is a point or a comma.');
        }
    }

    /** @param \Closure(): iterable<string> $blocks the bytes of the source from the start; may be asked for twice */
    public function reader(\Closure $blocks): RecordReader
    {
        return self::JSON_LINES === $this->form ? new JsonLinesReader($blocks, $this) : new CsvReader($blocks(), $this);
    }

    /** @return array{encoding: string, delimiter: string, quote: string, decimal: string, header: bool, carriageReturns: bool, skip: int, comment: string, missing: list<string>, thousands: string, form: string, dates: string} */
    public function toArray(): array
    {
        return ['encoding' => $this->encoding, 'delimiter' => $this->delimiter, 'quote' => $this->quote, 'decimal' => $this->decimal, 'header' => $this->header, 'carriageReturns' => $this->carriageReturns, 'skip' => $this->skip, 'comment' => $this->comment, 'missing' => $this->missing, 'thousands' => $this->thousands, 'form' => $this->form, 'dates' => $this->dates];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        $string = static fn (string $key, string $default): string => \is_string($data[$key] ?? null) ? $data[$key] : $default;

        return new self($string('encoding', 'UTF-8'), $string('delimiter', ','), $string('quote', '"'), $string('decimal', '.'), (bool) ($data['header'] ?? true), (bool) ($data['carriageReturns'] ?? false), \is_int($data['skip'] ?? null) ? $data['skip'] : 0, $string('comment', ''), self::codes($data['missing'] ?? null), $string('thousands', ''), $string('form', self::TEXT), $string('dates', self::DAY_FIRST));
    }

    /** @return list<string> */
    private static function codes(mixed $given): array
    {
        if (!\is_array($given)) {
            return self::MISSING;
        }
        $codes = array_map(static fn (mixed $c): string => \is_scalar($c) ? trim((string) $c) : '', array_values($given));

        return array_values(array_unique(['', ...$codes]));
    }
}
