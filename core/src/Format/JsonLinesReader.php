<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/**
 * Reads one JSON object a line, or a list of objects. Columns are all names that occur anywhere, in the order of their first appearance: they are gathered in
 * a pass of its own, so that nothing is lost. Lists and objects inside are kept as their JSON text; null and absent names are missing.
 */
final class JsonLinesReader implements RecordReader
{
    /** @var list<string> */
    private array $names = [];
    private int $records = 0;

    /** @var list<string> sentences, the first hundred */
    private array $repairs = [];
    private const REPAIRS_KEPT = 100;

    /** @param \Closure(): iterable<string> $blocks the bytes from the start; asked for twice */
    public function __construct(private readonly \Closure $blocks, private readonly Dialect $dialect = new Dialect(form: Dialect::JSON_LINES))
    {
    }

    public function names(): array
    {
        return $this->names;
    }

    public function repairs(): array
    {
        return $this->repairs;
    }

    private function repaired(string $sentence): void
    {
        if (\count($this->repairs) < self::REPAIRS_KEPT) {
            $this->repairs[] = $sentence;
        }
    }

    public function records(): int
    {
        return $this->records;
    }

    public function batches(int $size = CsvReader::BATCH, array $share = [0, 1]): \Generator
    {
        $places = [];
        foreach ($this->objects(true) as $object) {
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
        $keys = array_map(strval(...), array_keys($places));
        $this->names = $this->named($keys);
        $width = \count($places);
        $wanted = array_values(array_filter(range(0, $width - 1), static fn (int $j) => $j % $share[1] === $share[0]));
        $columns = array_fill(0, $width, []);
        $rows = 0;
        foreach ($this->objects(false) as $object) {
            foreach ($wanted as $j) {
                $columns[$j][] = self::cell($object[$keys[$j]] ?? null);
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

    /**
     * Names as they may stand over a column: without what cannot be written, and each once.
     *
     * @param list<string> $keys
     *
     * @return list<string>
     */
    private function named(array $keys): array
    {
        $names = [];
        foreach ($keys as $i => $key) {
            $name = trim((string) preg_replace('/[\x00-\x1F\s]+/u', ' ', $key));
            $name = '' === $name ? 'column_'.($i + 1) : $name;
            for ($unique = $name, $n = 2; isset($names[$unique]); ++$n) {
                $unique = $name.'_'.$n;
            }
            if ($unique !== $key) {
                $this->repaired(\sprintf('Column %d was named in a way that cannot be shown and is called %s.', $i + 1, $unique));
            }
            $names[$unique] = true;
        }

        return array_map(strval(...), array_keys($names));
    }

    /**
     * @param bool $looking whether oddities are named: once, not again when the cells are read
     *
     * @return \Generator<int, array<array-key, mixed>>
     */
    private function objects(bool $looking): \Generator
    {
        $decoding = new Decoding(($this->blocks)(), $this->dialect->encoding, $this->dialect->carriageReturns);
        foreach (JsonRecords::of($decoding->blocks()) as $line => $record) {
            $object = json_decode($record, true, 64, \JSON_BIGINT_AS_STRING);
            if (!\is_array($object) || '{' !== $record[0]) {
                throw UnreadableTable::notJson($line);
            }
            if ($looking) {
                $this->look($record, $object, $line);
            }
            yield $object;
        }
        foreach ($looking ? $decoding->repairs() : [] as $repair) {
            $this->repaired($repair);
        }
    }

    /**
     * What the language keeps silent about: a name that stands twice in one object, and a number beyond what a number may be.
     *
     * @param array<array-key, mixed> $object
     */
    private function look(string $record, array $object, int $line): void
    {
        preg_match_all('/"(?:[^"\\\\]++|\\\\.)*+"(\s*:)?/', $record, $found);
        // As an object: of an array with the keys 0, 1, 2 nobody knows whether they were names. Names with a NUL cannot be read so.
        $plain = json_decode($record, false, 64);
        if (null !== $plain && \count(array_filter($found[1])) > self::keys($plain)) {
            $this->repaired(\sprintf('Line %s names a column twice; what came last was kept.', number_format($line)));
        }
        foreach ($object as $name => $value) {
            if (\is_float($value) && !is_finite($value)) {
                $this->repaired(\sprintf('Line %s: %s is a number too large to be one.', number_format($line), $name));
            }
        }
    }

    /** Names in an object and in all objects inside it. */
    private static function keys(mixed $of): int
    {
        $inside = $of instanceof \stdClass ? get_object_vars($of) : (\is_array($of) ? $of : []);
        $count = $of instanceof \stdClass ? \count($inside) : 0;
        foreach ($inside as $value) {
            $count += self::keys($value);
        }

        return $count;
    }

    private static function cell(mixed $value): string
    {
        return match (true) {
            null === $value => '',
            \is_string($value) => $value,
            \is_bool($value) => $value ? 'yes' : 'no',
            // A cell that does not fit, and is counted as one.
            \is_float($value) && !is_finite($value) => $value > 0 ? 'INF' : '-INF',
            default => (string) json_encode($value, \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES),
        };
    }
}
