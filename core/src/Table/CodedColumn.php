<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/** Categories or yes/no: one code per row into a list of levels, -1 = missing. */
final readonly class CodedColumn implements Column
{
    /**
     * @param list<int>    $codes
     * @param list<string> $levels
     */
    public function __construct(public array $codes, public array $levels, private Kind $kind = Kind::Category)
    {
    }

    /** @param list<?string> $cells */
    public static function fromCells(array $cells, Kind $kind = Kind::Category): self
    {
        $index = $codes = [];
        foreach ($cells as $cell) {
            $codes[] = null === $cell ? -1 : $index[$cell] ??= \count($index);
        }

        return new self($codes, array_map(strval(...), array_keys($index)), $kind);
    }

    public function kind(): Kind
    {
        return $this->kind;
    }

    public function count(): int
    {
        return \count($this->codes);
    }

    public function missing(): int
    {
        return \count(array_keys($this->codes, -1, true));
    }

    public function isMissing(int $row): bool
    {
        return $this->codes[$row] < 0;
    }

    public function text(int $row): ?string
    {
        $code = $this->codes[$row];

        return $code < 0 ? null : $this->levels[$code];
    }

    public function take(array $rows): static
    {
        $codes = [];
        foreach ($rows as $row) {
            $codes[] = $this->codes[$row];
        }

        return new static($codes, $this->levels, $this->kind);
    }

    /**
     * How often each level occurs in the given rows (all when null).
     *
     * @param ?list<int> $rows
     *
     * @return list<int> one count per level
     */
    public function counts(?array $rows = null): array
    {
        $counts = array_fill(0, max(1, \count($this->levels)), 0);
        $codes = $this->codes;
        foreach ($rows ?? array_keys($codes) as $row) {
            $code = $codes[$row];
            if ($code >= 0) {
                ++$counts[$code];
            }
        }

        return array_values($counts);
    }
}
