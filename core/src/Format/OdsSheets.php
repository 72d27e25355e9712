<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/**
 * The sheets of an ODS file, read as a stream: stored values, so that no more than a row is in memory. Repeated empty rows and cells, of which
 * common programs write a million at the end, are no cells. Format: OASIS OpenDocument 1.3, part 3, chapter 9.
 */
final readonly class OdsSheets
{
    private const TABLE = 'urn:oasis:names:tc:opendocument:xmlns:table:1.0';
    private const OFFICE = 'urn:oasis:names:tc:opendocument:xmlns:office:1.0';
    private const TEXT = 'urn:oasis:names:tc:opendocument:xmlns:text:1.0';
    /** Bytes of one cell. */
    public const LONGEST_CELL = 1 << 20;

    public function __construct(private string $path)
    {
    }

    /** @return list<string> sheets in the order of the file */
    public function names(): array
    {
        $names = [];
        foreach ($this->sheets() as $xml) {
            $names[] = (string) $xml->getAttributeNs('name', self::TABLE);
        }

        return $names;
    }

    /** @return \Generator<int, \XMLReader> standing at each sheet */
    private function sheets(): \Generator
    {
        $xml = new \XMLReader();
        if (!@$xml->open('zip://'.$this->path.'#content.xml', null, \LIBXML_NONET | \LIBXML_COMPACT | \LIBXML_PARSEHUGE)) {
            throw new UnreadableTable('The workbook is damaged or protected by a password. Save it again, or save the sheet as CSV. Nothing was imported.');
        }
        try {
            while ($xml->read()) {
                if (\XMLReader::ELEMENT === $xml->nodeType && 'table' === $xml->localName && self::TABLE === $xml->namespaceURI) {
                    yield $xml;
                }
            }
        } finally {
            $xml->close();
        }
    }

    /**
     * @return \Generator<int, list<?string>> rows without the empty cells at their ends; empty rows between others, none at the end
     */
    public function rows(string $name): \Generator
    {
        foreach ($this->sheets() as $xml) {
            if ($name !== $xml->getAttributeNs('name', self::TABLE)) {
                continue;
            }
            if ($xml->isEmptyElement) {
                return;
            }
            $depth = $xml->depth;
            $empty = 0;
            while ($xml->read() && $xml->depth > $depth) {
                if (\XMLReader::ELEMENT !== $xml->nodeType || 'table-row' !== $xml->localName || self::TABLE !== $xml->namespaceURI) {
                    continue;
                }
                $times = max(1, (int) $xml->getAttributeNs('number-rows-repeated', self::TABLE));
                $row = self::row($xml);
                if ([] === $row) {
                    $empty += $times;
                    continue;
                }
                for (; $empty > 0; --$empty) {
                    yield [];
                }
                for ($i = 0; $i < $times; ++$i) {
                    yield $row;
                }
            }

            return;
        }
    }

    /** @return list<?string> */
    private static function row(\XMLReader $xml): array
    {
        $cells = [];
        $empty = 0;
        if ($xml->isEmptyElement) {
            return [];
        }
        $depth = $xml->depth;
        while ($xml->read() && $xml->depth > $depth) {
            if (\XMLReader::ELEMENT !== $xml->nodeType || self::TABLE !== $xml->namespaceURI || !\in_array($xml->localName, ['table-cell', 'covered-table-cell'], true)) {
                continue;
            }
            $times = max(1, (int) $xml->getAttributeNs('number-columns-repeated', self::TABLE));
            $cell = self::cell($xml);
            if (null === $cell || '' === $cell) {
                $empty += $times;
                continue;
            }
            if (\count($cells) + $empty + $times > CsvReader::MOST_COLUMNS) {
                throw UnreadableTable::tooManyColumns(\count($cells) + $empty + $times, CsvReader::MOST_COLUMNS);
            }
            array_push($cells, ...array_fill(0, $empty, null), ...array_fill(0, $times, $cell));
            $empty = 0;
        }

        return $cells;
    }

    private static function cell(\XMLReader $xml): ?string
    {
        $value = static fn (string $name): string => (string) $xml->getAttributeNs($name, self::OFFICE);
        $stored = match ((string) $xml->getAttributeNs('value-type', self::OFFICE)) {
            'float', 'currency', 'percentage' => $value('value'),
            'boolean' => 'true' === $value('boolean-value') ? 'yes' : 'no',
            'date' => str_replace('T', ' ', (string) preg_replace('/T00:00:00(\.0*)?$/', '', $value('date-value'))),
            'time' => self::time($value('time-value')),
            default => null,
        };
        $text = self::text($xml);

        return $stored ?? $text;
    }

    /** A duration as hours, minutes and seconds; hours go on beyond a day. */
    private static function time(string $duration): ?string
    {
        return 1 === preg_match('/^(-?)PT(\d+)H(\d+)M(\d+)/', $duration, $m) ? \sprintf('%s%02d:%02d:%02d', $m[1], $m[2], $m[3], $m[4]) : null;
    }

    /** The paragraphs of a cell, and no remarks about it. */
    private static function text(\XMLReader $xml): ?string
    {
        if ($xml->isEmptyElement) {
            return null;
        }
        $depth = $xml->depth;
        $text = null;
        $aside = null;
        while ($xml->read() && $xml->depth > $depth) {
            if (null !== $aside) {
                $aside = $xml->depth > $aside || \XMLReader::END_ELEMENT !== $xml->nodeType && $xml->depth === $aside ? $aside : null;
                continue;
            }
            if (\XMLReader::ELEMENT === $xml->nodeType) {
                if ('annotation' === $xml->localName && !$xml->isEmptyElement) {
                    $aside = $xml->depth;
                } elseif (self::TEXT === $xml->namespaceURI) {
                    $text = match ($xml->localName) {
                        'p', 'h' => null === $text ? '' : $text."\n",
                        's' => $text.str_repeat(' ', min(1000, max(1, (int) $xml->getAttributeNs('c', self::TEXT)))),
                        'tab' => $text."\t",
                        'line-break' => $text."\n",
                        default => $text,
                    };
                }
            } elseif (\in_array($xml->nodeType, [\XMLReader::TEXT, \XMLReader::CDATA, \XMLReader::SIGNIFICANT_WHITESPACE], true) && null !== $text) {
                $text .= $xml->value;
                if (\strlen($text) > self::LONGEST_CELL) {
                    throw new UnreadableTable('A cell of the sheet is longer than 1 MB. Save the sheet as CSV and try again. Nothing was imported.');
                }
            }
        }

        return $text;
    }
}
