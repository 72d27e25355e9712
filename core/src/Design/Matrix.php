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
     */
    private function __construct(private array $kept, public array $names, public int $rows)
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
     * The same rows with each block made anew.
     *
     * @param \Closure(list<list<float>>): list<list<float>> $made
     */
    public function mapped(\Closure $made): self
    {
        $packed = self::isLarge($this->rows, \count($this->names));
        $blocks = [];
        foreach ($this->blocks() as $columns) {
            $new = $made($columns);
            $blocks[] = $packed ? array_map(static fn (array $column): string => pack('e*', ...$column), $new) : $new;
        }

        return new self($blocks, $this->names, $this->rows);
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
        $out = [];
        foreach ($this->kept[$b] as $column) {
            if (\is_string($column)) {
                /** @var array<int, float> $numbers */
                $numbers = unpack('e*', $column) ?: [];
                $column = array_values($numbers);
            }
            $out[] = $column;
        }

        return $out;
    }

    /** @return \Generator<int, list<float>> one column, block by block */
    public function column(int $j): \Generator
    {
        foreach ($this->kept as $b => $columns) {
            $column = $columns[$j];
            if (\is_string($column)) {
                /** @var array<int, float> $numbers */
                $numbers = unpack('e*', $column) ?: [];
                $column = array_values($numbers);
            }
            yield $b => $column;
        }
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

        return new self($blocks, $names, $this->rows);
    }
}
