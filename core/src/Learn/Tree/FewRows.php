<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/**
 * A node of few rows, as one bit for each row of the first such node above it. Sorting the rows of that one by a column serves all
 * nodes below it, and most nodes of a deep tree are such.
 */
final readonly class FewRows
{
    /** Whole numbers have room for so many bits. */
    public const MOST = 62;

    private function __construct(private SortedRows $rows, private int $bits, private int $packed)
    {
    }

    /** @param list<int> $rows */
    public static function first(PackedSearch $search, array $rows): self
    {
        $sorted = new SortedRows($search, $rows);

        return new self($sorted, (1 << \count($rows)) - 1, $sorted->sum((1 << \count($rows)) - 1));
    }

    /**
     * @param list<int> $features
     */
    public function among(array $features): ?Found
    {
        return $this->rows->among($features, $this->bits, $this->packed);
    }

    /** @return array{self, self} */
    public function parted(Division $by): array
    {
        [$left, $sum] = $this->rows->left($by, $this->bits);

        return [new self($this->rows, $left, $sum), new self($this->rows, $this->bits & ~$left, $this->packed - $sum)];
    }

    /** @return list<int> */
    public function rows(): array
    {
        return $this->rows->of($this->bits);
    }

    /** Weight and outcomes, as PackedSearch packs them. */
    public function packed(): int
    {
        return $this->packed;
    }
}
