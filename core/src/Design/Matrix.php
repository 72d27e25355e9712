<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

/**
 * Rows of numbers for a learner, cut into blocks of 1,024 rows that are kept column by column: a block of one column stays in the
 * processor's nearest memory while it meets every other column.
 */
final readonly class Matrix
{
    public const BLOCK = 1024;

    /**
     * @param list<list<list<float>>> $blocks block, column, row within the block
     * @param list<string>            $names  one per column
     */
    public function __construct(public array $blocks, public array $names, public int $rows)
    {
    }

    /**
     * @param list<list<float>> $columns one list of finite floats per column
     * @param list<string>      $names
     */
    public static function ofColumns(array $columns, array $names, int $rows): self
    {
        $blocks = [];
        for ($start = 0; $start < $rows; $start += self::BLOCK) {
            $block = [];
            foreach ($columns as $column) {
                $block[] = \array_slice($column, $start, self::BLOCK);
            }
            $blocks[] = $block;
        }

        return new self($blocks, $names, $rows);
    }

    /** @param list<int> $drop places of columns to leave out */
    public function without(array $drop): self
    {
        $gone = array_flip($drop);
        $keep = static fn (array $list): array => array_values(array_diff_key($list, $gone));
        /** @var list<list<list<float>>> $blocks */
        $blocks = array_map($keep, $this->blocks);
        /** @var list<string> $names */
        $names = $keep($this->names);

        return new self($blocks, $names, $this->rows);
    }
}
