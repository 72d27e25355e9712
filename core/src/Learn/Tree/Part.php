<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Expression\Named;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/** What a path through a tree demands of one column: some levels, or a stretch of numbers; and whether a missing value will do. */
final readonly class Part
{
    /**
     * @param ?list<string> $levels  of a category; null for a stretch
     * @param ?float        $over    values over it; INF: only what is missing
     * @param ?float        $most    values up to it; INF: any value
     * @param ?bool         $missing null where no row without a value was seen
     * @param bool          $date    bounds are days since 1970
     */
    public function __construct(
        public ?array $levels,
        public ?float $over = null,
        public ?float $most = null,
        public ?bool $missing = null,
        public bool $date = false,
    ) {
    }

    /** The demand of a node on the rows that go to one side of it. */
    public static function of(Node $node, bool $isLeft): self
    {
        // Where nothing was missing, where it would go is no part of the rule.
        $missing = $node->missingSeen ? $isLeft === $node->missingLeft : null;
        if (null !== $node->leftLevels) {
            return new self($isLeft ? $node->leftLevels : $node->rightLevels ?? [], missing: $missing);
        }

        return new self(null, $isLeft ? null : $node->threshold, $isLeft ? $node->threshold : null, $missing, $node->isDate);
    }

    /** This and a demand further down the same path. */
    public function and(self $deeper): self
    {
        $known = $this->levels;
        $levels = null === $deeper->levels || null === $known ? $deeper->levels ?? $known : array_values(array_filter(
            $deeper->levels,
            static fn (string $l): bool => \in_array($l, $known, true),
        ));

        // "Any value at all", further down, does not widen what was demanded above.
        $over = null === $deeper->over || null === $this->over ? $deeper->over ?? $this->over : max($deeper->over, $this->over);
        $most = null === $deeper->most || null === $this->most ? $deeper->most ?? $this->most : min($deeper->most, $this->most);

        return new self(
            $levels,
            $over,
            $most,
            null === $deeper->missing ? $this->missing : $deeper->missing && ($this->missing ?? true),
            $this->date || $deeper->date,
        );
    }

    /**
     * Demands on one column become one.
     *
     * @param array<array-key, self> $path
     *
     * @return array<array-key, self>
     */
    public static function narrowed(array $path, string $column, self $part): array
    {
        $path[$column] = isset($path[$column]) ? $path[$column]->and($part) : $part;

        return $path;
    }

    /**
     * A whole path as a condition of SQL.
     *
     * @param array<array-key, self> $path by column
     */
    public static function condition(array $path): string
    {
        $parts = array_map(
            static fn (int|string $name, self $part): string => $part->sql((string) $name),
            array_keys($path),
            $path,
        );

        return [] === $parts ? '1 = 1' : implode(' AND ', $parts);
    }

    /** @return list<?self> what is left when something of it is no longer demanded; null = nothing */
    public function loosened(): array
    {
        return null !== $this->over && null !== $this->most && !is_infinite($this->over) && !is_infinite($this->most)
            ? [
                null,
                new self(null, $this->over, null, $this->missing, $this->date),
                new self(null, null, $this->most, $this->missing, $this->date),
            ]
            : [null];
    }

    /**
     * The rows of a table that meet it.
     *
     * @param list<int> $rows
     *
     * @return list<int>
     *
     * @throws \DomainException A column is … in this table; the model learned it as categories. and more
     */
    public function met(Column $column, array $rows): array
    {
        $missing = true === $this->missing;
        $out = [];
        if (null !== $this->levels) {
            if (!$column instanceof CodedColumn) {
                throw new \DomainException(\sprintf(
                    'A column is %s in this table; the model learned it as categories.',
                    $column->kind()->value,
                ));
            }
            $in = [-1 => $missing];
            foreach ($column->levels as $code => $level) {
                $in[$code] = \in_array($level, $this->levels, true);
            }
            foreach ($rows as $row) {
                if ($in[$column->codes[$row]]) {
                    $out[] = $row;
                }
            }

            return $out;
        }
        if (!$column instanceof NumberColumn && !$column instanceof DateColumn) {
            throw new \DomainException(\sprintf('A column is %s in this table; the model learned it as numbers.', $column->kind()->value));
        }
        $over = $this->over ?? -\INF;
        $most = $this->most ?? \INF;
        foreach ($rows as $row) {
            $v = $column instanceof NumberColumn ? $column->values[$row] : (DateColumn::MISSING === $column->seconds[$row] ? \NAN : $column->seconds[$row] / DateColumn::DAY);
            if (is_nan($v) ? $missing : ($v > $over || (-\INF === $over && $v === $over)) && $v <= $most) {
                $out[] = $row;
            }
        }

        return $out;
    }

    /** The same as a condition on a column that is written out. */
    public function expression(Named $column): Expression
    {
        $missing = true === $this->missing ? [new IsMissing($column)] : [];
        $never = Operation::of(Operator::Below, new Constant(1.0), new Constant(0.0));
        $bounds = [];
        if (null !== $this->levels) {
            $listed = new Lookup($column, array_fill_keys($this->levels, 1.0), 0.0, 0.0);
            $bounds[] = [] === $this->levels ? $never : Operation::of(Operator::Below, new Constant(0.5), $listed);
        } elseif (\INF === $this->over) {
            $bounds[] = $never;
        } else {
            $bounds = null === $this->over || is_infinite($this->over) ? [] : [
                Operation::of(Operator::Below, new Constant($this->over), $column),
            ];
            // A value is up to itself; what is missing is not.
            $most = null === $this->most || is_infinite($this->most) ? $column : new Constant($this->most);
            $bounds[] = Operation::of(Operator::UpTo, $column, $most);
        }
        $holds = 1 === \count($bounds) ? $bounds[0] : new Operation(Operator::And, $bounds);

        return [] === $missing ? $holds : Operation::of(Operator::Or, $holds, ...$missing);
    }

    public function sentence(string $name): string
    {
        $missing = true === $this->missing;
        if (\INF === $this->over) {
            return $name.' missing';
        }
        if (null !== $this->levels) {
            $shown = \count($this->levels) > 5 ? implode(', ', \array_slice($this->levels, 0, 4)).\sprintf(
                ' or %d others',
                \count($this->levels) - 4,
            ) : implode(' or ', $this->levels);
            $said = [] === $this->levels ? $name.' missing' : $name.' '.$shown;

            return $missing && [] !== $this->levels ? $said.', or missing' : $said;
        }
        $number = fn (float $v): string => $this->date ? gmdate(
            'Y-m-d',
            (int) floor($v * DateColumn::DAY),
        ) : (string) (float) \sprintf('%.6g', $v);
        $said = match (true) {
            null !== $this->over && null !== $this->most && \INF !== $this->most => \sprintf(
                '%s over %s, up to %s',
                $name,
                $number($this->over),
                $number($this->most),
            ),
            null !== $this->over => \sprintf('%s over %s', $name, $number($this->over)),
            null === $this->most || \INF === $this->most => $name.' known',
            default => \sprintf('%s up to %s', $name, $number($this->most)),
        };

        return $missing ? $said.', or missing' : $said;
    }

    /** The same as a condition of SQL, on a column of that name as the tree reads it. */
    public function sql(string $name): string
    {
        $column = '"'.str_replace('"', '""', $name).'"';
        $text = static fn (string $v): string => "'".str_replace("'", "''", $v)."'";
        // Days have no fraction: what is over the middle between two days is over the earlier one.
        $number = fn (float $v): string => $this->date ? 'DATE '.$text(gmdate(
            'Y-m-d',
            (int) floor($v) * DateColumn::DAY,
        )) : (string) json_encode($v);
        if (\INF === $this->over || [] === $this->levels) {
            return $column.' IS NULL';
        }
        $said = match (true) {
            null !== $this->levels => \sprintf('%s IN (%s)', $column, implode(', ', array_map($text, $this->levels))),
            null !== $this->over && null !== $this->most && \INF !== $this->most => \sprintf(
                '%1$s > %2$s AND %1$s <= %3$s',
                $column,
                $number($this->over),
                $number($this->most),
            ),
            null !== $this->over => \sprintf('%s > %s', $column, $number($this->over)),
            null === $this->most || \INF === $this->most => $column.' IS NOT NULL',
            default => \sprintf('%s <= %s', $column, $number($this->most)),
        };

        return true === $this->missing ? \sprintf('(%s OR %s IS NULL)', $said, $column) : $said;
    }

    /**
     * A path as a sentence.
     *
     * @param array<array-key, self> $path by column
     */
    public static function path(array $path): string
    {
        $parts = [];
        foreach ($path as $name => $part) {
            $parts[] = $part->sentence((string) $name);
        }

        return [] === $parts ? 'every record' : implode('; ', $parts);
    }

    /** @return array{levels: ?list<string>, over: ?float, most: ?float, missing: ?bool, date: bool} */
    public function toArray(): array
    {
        // JSON knows no infinity; a bound that is not there says the same of the upper one, and "known" or "missing" alone has no bound.
        return [
            'levels' => $this->levels,
            'over' => \INF === $this->over ? null : $this->over,
            'most' => \INF === $this->most ? null : $this->most,
            'missing' => $this->missing,
            'date' => $this->date,
        ] + (\INF === $this->over ? ['only' => 'missing'] : (\INF === $this->most ? ['only' => 'known'] : []));
    }

    /** @param array{levels: ?list<string>, over: float|int|null, most: float|int|null, missing: ?bool, date: bool, only?: string} $data */
    public static function fromArray(array $data): self
    {
        $only = $data['only'] ?? null;

        return new self(
            $data['levels'],
            'missing' === $only ? \INF : (null === $data['over'] ? null : (float) $data['over']),
            'known' === $only ? \INF : (null === $data['most'] ? null : (float) $data['most']),
            $data['missing'],
            $data['date'],
        );
    }
}
