<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** How a delimited text file is written. */
final readonly class Dialect
{
    public const ENCODINGS = ['UTF-8', 'UTF-16LE', 'UTF-16BE', 'Windows-1252', 'ISO-8859-1'];
    public const DELIMITERS = [',', ';', "\t", '|'];
    public const MISSING = ['', 'NA', 'N/A', 'n/a', 'NULL', 'null', 'NaN', 'nan', '#N/A'];

    public function __construct(
        public string $encoding = 'UTF-8',
        public string $delimiter = ',',
        public string $quote = '"',
        public string $decimal = '.',
        public bool $header = true,
        public bool $carriageReturns = false,
    ) {
        if (!\in_array($encoding, self::ENCODINGS, true)) {
            throw new \InvalidArgumentException(\sprintf('The encoding "%s" is not known; choose one of %s.', $encoding, implode(', ', self::ENCODINGS)));
        }
        if (1 !== \strlen($delimiter) || $delimiter === $quote) {
            throw new \InvalidArgumentException('The delimiter is one character that is not the quote mark.');
        }
        if (!\in_array($decimal, ['.', ','], true)) {
            throw new \InvalidArgumentException('The decimal mark is a point or a comma.');
        }
    }

    /** @return array{encoding: string, delimiter: string, quote: string, decimal: string, header: bool, carriageReturns: bool} */
    public function toArray(): array
    {
        return ['encoding' => $this->encoding, 'delimiter' => $this->delimiter, 'quote' => $this->quote, 'decimal' => $this->decimal, 'header' => $this->header, 'carriageReturns' => $this->carriageReturns];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        $string = static fn (string $key, string $default): string => \is_string($data[$key] ?? null) ? $data[$key] : $default;

        return new self($string('encoding', 'UTF-8'), $string('delimiter', ','), $string('quote', '"'), $string('decimal', '.'), (bool) ($data['header'] ?? true), (bool) ($data['carriageReturns'] ?? false));
    }
}
