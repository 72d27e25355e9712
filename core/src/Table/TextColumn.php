<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/** Free text or identifiers: one string per row, null = missing. */
final readonly class TextColumn implements Column
{
    /** @param list<?string> $cells */
    public function __construct(public array $cells, private Kind $kind = Kind::Text)
    {
    }

    public function kind(): Kind
    {
        return $this->kind;
    }

    public function count(): int
    {
        return \count($this->cells);
    }

    public function missing(): int
    {
        return \count(array_keys($this->cells, null, true));
    }

    public function isMissing(int $row): bool
    {
        return null === $this->cells[$row];
    }

    public function text(int $row): ?string
    {
        return $this->cells[$row];
    }

    public function take(array $rows): static
    {
        $cells = [];
        foreach ($rows as $row) {
            $cells[] = $this->cells[$row];
        }

        return new static($cells, $this->kind);
    }
}
