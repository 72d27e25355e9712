<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/**
 * The cells of one column on their way into a frame. While a column repeats few cells a byte stands for each, and the cells
 * themselves are let go of at once; from the first frame with too many they are kept as they are.
 */
final class CellBlock
{
    private ?CellDictionary $dictionary;
    private string $encoded = '';
    /** @var list<string> */
    private array $cells = [];

    public function __construct()
    {
        $this->dictionary = new CellDictionary();
    }

    /** @param list<string> $cells */
    public function take(array $cells): void
    {
        if (null !== $this->dictionary) {
            $encoded = $this->dictionary->encode($cells);
            if (null !== $encoded) {
                $this->encoded .= $encoded;

                return;
            }
            $this->cells = $this->dictionary->cells($this->encoded);
            $this->dictionary = null;
            $this->encoded = '';
        }
        array_push($this->cells, ...$cells);
    }

    /** Empties the block; what the columns repeat stays known. */
    public function clear(): void
    {
        $this->encoded = '';
        $this->cells = [];
    }

    public function repeats(): bool
    {
        return null !== $this->dictionary;
    }

    public function count(): int
    {
        return null === $this->dictionary ? \count($this->cells) : \strlen($this->encoded);
    }

    /** @return list<string> one column of the block, row by row */
    public function cells(): array
    {
        return null === $this->dictionary ? $this->cells : $this->dictionary->cells($this->encoded);
    }

    /** @return array<array-key, int> how often each cell occurs */
    public function distinct(): array
    {
        return null === $this->dictionary ? array_count_values($this->cells) : $this->dictionary->counts($this->encoded);
    }

    /**
     * The bytes that stand for each cell, in the order of the cells.
     *
     * @param array<array-key, string> $bytes by cell, equally many for each
     */
    public function join(array $bytes): string
    {
        if (null !== $this->dictionary) {
            return $this->dictionary->translate($this->encoded, $bytes);
        }
        $out = '';
        foreach ($this->cells as $cell) {
            $out .= $bytes[$cell];
        }

        return $out;
    }
}
