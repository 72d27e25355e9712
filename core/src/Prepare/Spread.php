<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Profile\ScaledBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/** How one column is spread in several tables, on one scale: the rows that are kept, in bins of equal width or by value. */
final readonly class Spread
{
    private const LEVELS = 12;

    /**
     * @param list<string>           $labels
     * @param array<int, ?list<int>> $counts one list a table, by its place; null where the column is not there, or holds another kind
     */
    private function __construct(public string $column, public array $labels, public array $counts)
    {
    }

    /**
     * @param array<int, ?Prepared> $tables
     *
     * @return ?self null when there is nothing to count, such as texts
     */
    public static function of(array $tables, string $name, int $bins): ?self
    {
        $columns = array_map(static fn (?Prepared $t) => null !== $t && $t->table->has($name) ? $t->table->column($name) : null, $tables);
        // The last table that has it says of what kind it is.
        $kind = null;
        foreach ($columns as $column) {
            $kind = $column?->kind() ?? $kind;
        }
        $columns = array_map(static fn (?Column $c) => $c?->kind() === $kind ? $c : null, $columns);
        $last = array_values(array_filter($columns))[0] ?? null;
        if ($last instanceof NumberColumn || $last instanceof DateColumn) {
            $values = [];
            foreach ($columns as $i => $column) {
                $values[$i] = null === $column || null === $tables[$i] ? null : self::numbers($tables[$i], $column);
            }

            return self::ofNumbers($name, $values, $bins, $last instanceof DateColumn);
        }
        if (!$last instanceof CodedColumn) {
            return null;
        }
        $levels = [];
        foreach ($columns as $i => $column) {
            $levels[$i] = $column instanceof CodedColumn && null !== $tables[$i] ? self::levels($tables[$i], $column) : null;
        }
        $all = [];
        foreach ($levels as $counts) {
            foreach ($counts ?? [] as $level => $n) {
                $all[$level] = ($all[$level] ?? 0) + $n;
            }
        }
        arsort($all);
        $labels = \array_slice(array_map(strval(...), array_keys($all)), 0, self::LEVELS);

        return new self($name, $labels, array_map(static fn (?array $counts) => null === $counts ? null : array_map(static fn (string $l) => $counts[$l] ?? 0, $labels), $levels));
    }

    /** @param array<int, ?list<float>> $values */
    private static function ofNumbers(string $name, array $values, int $bins, bool $dates): ?self
    {
        $edges = ScaledBins::edges(array_merge(...array_values(array_filter($values))), $bins, false);
        if (\count($edges) < 2) {
            return null;
        }
        $inner = \array_slice($edges, 1, -1);
        $write = static fn (float $v): string => $dates ? gmdate('Y-m-d', (int) $v) : Words::number($v);
        $labels = [];
        for ($i = 1; $i < \count($edges); ++$i) {
            $labels[] = $write($edges[$i - 1]).' to '.$write($edges[$i]);
        }
        $count = static function (array $of) use ($inner): array {
            /** @var list<float> $of */
            $counts = array_fill(0, \count($inner) + 1, 0);
            foreach (QuantileBins::codes($of, $inner) as $bin) {
                if ($bin >= 0) {
                    ++$counts[$bin];
                }
            }

            return array_values($counts);
        };

        return new self($name, $labels, array_map(static fn (?array $v) => null === $v ? null : $count($v), $values));
    }

    /** @return list<float> of kept rows */
    private static function numbers(Prepared $table, Column $column): array
    {
        $out = [];
        if ($column instanceof NumberColumn) {
            foreach ($column->values as $row => $v) {
                $out[] = isset($table->out[$row]) ? \NAN : $v;
            }
        } elseif ($column instanceof DateColumn) {
            foreach ($column->seconds as $row => $s) {
                $out[] = isset($table->out[$row]) || DateColumn::MISSING === $s ? \NAN : (float) $s;
            }
        }

        return $out;
    }

    /** @return array<array-key, int> by level */
    private static function levels(Prepared $table, CodedColumn $column): array
    {
        $counts = [];
        foreach ($column->codes as $row => $code) {
            if ($code >= 0 && !isset($table->out[$row])) {
                $counts[$column->levels[$code]] = ($counts[$column->levels[$code]] ?? 0) + 1;
            }
        }

        return $counts;
    }
}
