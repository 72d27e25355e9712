<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/** Named columns of equal length. Immutable. */
final readonly class Table
{
    /** @param array<array-key, Column> $columns by name; names made of digits are integers as keys */
    private function __construct(private array $columns, public int $rows)
    {
    }

    /**
     * @param array<array-key, Column> $columns by name; names made of digits are integers as keys
     *
     * @throws \LengthException column "…" has … cells, the table has … rows
     */
    public static function of(array $columns, ?int $rows = null): self
    {
        foreach ($columns as $name => $column) {
            $rows ??= $column->count();
            if ($column->count() !== $rows) {
                throw new \LengthException(\sprintf('Column "%s" has %d cells, the table has %d rows.', $name, $column->count(), $rows));
            }
        }

        return new self($columns, $rows ?? 0);
    }

    /** @return array<array-key, Column> by name */
    public function columns(): array
    {
        return $this->columns;
    }

    /** @return list<string> in the order of the table */
    public function names(): array
    {
        return array_map(strval(...), array_keys($this->columns));
    }

    public function has(string $name): bool
    {
        return isset($this->columns[$name]);
    }

    /** @throws \OutOfBoundsException There is no column "…". */
    public function column(string $name): Column
    {
        return $this->columns[$name] ?? throw new \OutOfBoundsException(\sprintf('There is no column "%s".', $name));
    }

    /** @throws \DomainException Column "…" holds …, a number is needed. */
    public function number(string $name): NumberColumn
    {
        $column = $this->column($name);

        return $column instanceof NumberColumn ? $column : throw new \DomainException(\sprintf('Column "%s" holds %s, a number is needed.', $name, $column->kind()->value));
    }

    public function with(string $name, Column $column): self
    {
        // Not by spreading: that would number columns anew whose names are digits.
        $columns = $this->columns;
        $columns[$name] = $column;

        return self::of($columns, $this->rows);
    }

    /** @param list<string> $names */
    public function without(array $names): self
    {
        return new self(array_diff_key($this->columns, array_flip($names)), $this->rows);
    }

    /** @param list<int> $rows */
    public function take(array $rows): self
    {
        return new self(array_map(static fn (Column $c) => $c->take($rows), $this->columns), \count($rows));
    }

    /** The number of missing cells in all columns. */
    public function missing(): int
    {
        return array_sum(array_map(static fn (Column $c) => $c->missing(), $this->columns));
    }
}
