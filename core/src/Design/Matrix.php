<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

/**
 * Rows of numbers for a learner, cut into blocks of 1,024 rows that are kept column by column: a block of one column stays in the
 * processor's nearest memory while it meets every other column. A large matrix keeps its blocks packed, eight bytes a cell, and hands them out
 * one at a time: reading a block costs little beside what is done with it, and half of the memory is saved. The numbers are the same.
 */
final readonly class Matrix
{
    public const BLOCK = 1024;
    /** Cells from which on blocks are kept packed. */
    public const PACKED_FROM = 4_000_000;

    /**
     * @param list<list<list<float>|string>> $kept  block, column: the numbers of its rows, or these packed
     * @param list<string>                   $names one per column
     * @param ?list<array{float, float}>     $moved per column what is taken off when it is read, and what it is then multiplied by
     */
    private function __construct(private array $kept, public array $names, public int $rows, private ?array $moved = null)
    {
    }

    /**
     * @param list<list<list<float>>> $blocks block, column, row within the block
     * @param list<string>            $names
     */
    public static function ofBlocks(array $blocks, array $names, int $rows): self
    {
        return new self($blocks, $names, $rows);
    }

    /**
     * @param iterable<list<float>> $columns one list of finite floats per column; asked for one after the other
     * @param list<string>          $names
     */
    public static function ofColumns(iterable $columns, array $names, int $rows): self
    {
        $packed = self::isLarge($rows, \count($names));
        $blocks = [];
        foreach ($columns as $column) {
            for ($b = 0, $start = 0; $start < $rows; ++$b, $start += self::BLOCK) {
                $part = \array_slice($column, $start, self::BLOCK);
                $blocks[$b][] = $packed ? pack('e*', ...$part) : $part;
            }
        }

        return new self(array_values($blocks), $names, $rows);
    }

    public static function isLarge(int $rows, int $width): bool
    {
        return $rows * $width >= self::PACKED_FROM;
    }

    /**
     * The same with something taken off each column, and the rest multiplied. A large matrix does so whenever a block is read, which costs less than
     * keeping the numbers twice.
     *
     * @param list<array{float, float}> $moved per column; 0 and 1 leave it as it is
     */
    public function moved(array $moved): self
    {
        $later = new self($this->kept, $this->names, $this->rows, $moved);
        if (self::isLarge($this->rows, \count($this->names))) {
            return $later;
        }

        return new self(iterator_to_array($later->blocks(), false), $this->names, $this->rows);
    }

    public function count(): int
    {
        return \count($this->kept);
    }

    /** @return \Generator<int, list<list<float>>> block by block: column, row within the block */
    public function blocks(): \Generator
    {
        foreach (array_keys($this->kept) as $b) {
            yield $b => $this->block($b);
        }
    }

    /** @return list<list<float>> column, row within the block */
    public function block(int $b): array
    {
        return array_map($this->read(...), $this->kept[$b], array_keys($this->kept[$b]));
    }

    /** @return \Generator<int, list<float>> one column, block by block */
    public function column(int $j): \Generator
    {
        foreach ($this->kept as $b => $columns) {
            yield $b => $this->read($columns[$j], $j);
        }
    }

    /**
     * @param list<float>|string $column
     *
     * @return list<float>
     */
    private function read(array|string $column, int $j): array
    {
        if (\is_string($column)) {
            /** @var array<int, float> $numbers */
            $numbers = unpack('e*', $column) ?: [];
            $column = array_values($numbers);
        }
        [$mean, $inverse] = $this->moved[$j] ?? [0.0, 1.0];
        if (0.0 === $mean && 1.0 === $inverse) {
            return $column;
        }
        $out = [];
        foreach ($column as $v) {
            $out[] = ($v - $mean) * $inverse;
        }

        return $out;
    }

    /** @param list<int> $drop places of columns to leave out */
    public function without(array $drop): self
    {
        $gone = array_flip($drop);
        $keep = static fn (array $list): array => array_values(array_diff_key($list, $gone));
        /** @var list<list<list<float>|string>> $blocks */
        $blocks = array_map($keep, $this->kept);
        /** @var list<string> $names */
        $names = $keep($this->names);
        /** @var ?list<array{float, float}> $moved */
        $moved = null === $this->moved ? null : $keep($this->moved);

        return new self($blocks, $names, $this->rows, $moved);
    }
}
