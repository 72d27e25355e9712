<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** The sum of what trees say, and a start. A number up to the threshold goes left; a text goes left where the list says so. */
final readonly class Trees implements Expression
{
    /**
     * @param list<list<TreeNode>>    $trees   the root of each first
     * @param array<array-key, Named> $columns by the name that nodes ask for
     */
    public function __construct(public array $trees, public float $start, public array $columns)
    {
    }

    public function nodes(): int
    {
        return array_sum(array_map(\count(...), $this->trees));
    }

    public function parts(): array
    {
        return array_values($this->columns);
    }

    /** @return array{trees: list<list<TreeNode>>, start: float, columns: array<array-key, string>} */
    public function jsonSerialize(): array
    {
        return [
            'trees' => $this->trees,
            'start' => $this->start,
            'columns' => array_map(static fn (Named $n): string => $n->name, $this->columns),
        ];
    }
}
