<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/**
 * Reads one JSON object a line. Columns are all names that occur anywhere, in the order of their first appearance: they are gathered in
 * a pass of its own, so that nothing is lost. Lists and objects inside are kept as their JSON text; null and absent names are missing.
 */
final class JsonLinesReader implements RecordReader
{
    /** @var list<string> */
    private array $names = [];
    private int $records = 0;

    /** @param \Closure(): iterable<string> $blocks the bytes from the start; asked for twice */
    public function __construct(private readonly \Closure $blocks)
    {
    }

    public function names(): array
    {
        return $this->names;
    }

    public function repairs(): array
    {
        return [];
    }

    public function records(): int
    {
        return $this->records;
    }

    public function batches(int $size = CsvReader::BATCH, array $share = [0, 1]): \Generator
    {
        $places = [];
        foreach ($this->objects() as $object) {
            foreach ($object as $name => $_) {
                $places[$name] ??= \count($places);
            }
        }
        if ([] === $places) {
            throw UnreadableTable::empty();
        }
        if (\count($places) > CsvReader::MOST_COLUMNS) {
            throw UnreadableTable::tooManyColumns(\count($places), CsvReader::MOST_COLUMNS);
        }
        $this->names = array_map(strval(...), array_keys($places));
        $width = \count($places);
        $wanted = array_values(array_filter(range(0, $width - 1), static fn (int $j) => $j % $share[1] === $share[0]));
        $columns = array_fill(0, $width, []);
        $rows = 0;
        foreach ($this->objects() as $object) {
            foreach ($wanted as $j) {
                $columns[$j][] = self::cell($object[$this->names[$j]] ?? null);
            }
            ++$this->records;
            if (++$rows === $size) {
                yield new Batch($columns, $rows);
                $columns = array_fill(0, $width, []);
                $rows = 0;
            }
        }
        if ($rows > 0) {
            yield new Batch($columns, $rows);
        }
    }

    /** @return \Generator<int, array<array-key, mixed>> */
    private function objects(): \Generator
    {
        $number = 0;
        foreach ($this->lines() as $line) {
            ++$number;
            if ('' === trim($line)) {
                continue;
            }
            $object = json_decode($line, false, 64, \JSON_BIGINT_AS_STRING);
            if (!$object instanceof \stdClass) {
                throw UnreadableTable::notJson($number);
            }
            yield get_object_vars($object);
        }
    }

    /** @return \Generator<int, string> */
    private function lines(): \Generator
    {
        $carry = '';
        $first = true;
        foreach (($this->blocks)() as $block) {
            if ($first) {
                $block = str_starts_with($block, "\xEF\xBB\xBF") ? substr($block, 3) : $block;
                $first = false;
            }
            $lines = explode("\n", $carry.$block);
            $carry = (string) array_pop($lines);
            if (\strlen($carry) > CsvReader::LONGEST_RECORD) {
                throw UnreadableTable::longRecord(1, CsvReader::LONGEST_RECORD);
            }
            yield from $lines;
        }
        if ('' !== $carry) {
            yield $carry;
        }
    }

    private static function cell(mixed $value): string
    {
        return match (true) {
            null === $value => '',
            \is_string($value) => $value,
            \is_bool($value) => $value ? 'yes' : 'no',
            default => (string) json_encode($value, \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES),
        };
    }
}
