<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Math\Cholesky;
use Dokimos\Core\Math\NotPositiveDefinite;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * What a number most likely is, from the other columns of its row: a ridge regression on standardized numbers and on levels of
 * categories, learned on training rows. A missing predictor counts as its mean. Formula: docs/methods/preparation.md.
 */
final readonly class Guess
{
    private const MOST_ROWS = 10000;
    private const MOST_LEVELS = 20;
    private const MOST_TERMS = 24;
    private const RIDGE = 1.0;

    /** @param list<array{column: string, level: ?string, mean: float, sd: float, weight: float}> $terms */
    private function __construct(private float $base, private array $terms)
    {
    }

    /**
     * @param list<int> $rows training rows
     *
     * @throws CannotPrepare … has no value in any training row, so there is nothing to fill it with. Set it aside.
     */
    public static function fit(Table $table, array $rows, string $name): self
    {
        $target = $table->number($name)->values;
        $rows = array_values(array_filter($rows, static fn (int $r) => $target[$r] === $target[$r]));
        $step = max(1, intdiv(\count($rows), self::MOST_ROWS));
        $rows = array_values(array_filter($rows, static fn (int $i) => 0 === $i % $step, \ARRAY_FILTER_USE_KEY));
        $n = \count($rows);
        if (0 === $n) {
            throw new CannotPrepare(\sprintf('%s has no value in any training row, so there is nothing to fill it with. Set it aside.', $name));
        }
        $y = array_map(static fn (int $r) => $target[$r], $rows);
        $base = array_sum($y) / $n;
        $terms = $columns = [];
        foreach (self::candidates($table, $name, $rows) as [$column, $level]) {
            $values = self::values($table, $column, $level, $rows);
            $known = array_filter($values, static fn (float $v) => $v === $v);
            $mean = [] === $known ? 0.0 : array_sum($known) / \count($known);
            $sd = sqrt(array_sum(array_map(static fn (float $v) => ($v - $mean) ** 2, $known)) / max(1, \count($known)));
            if ($sd > 1e-12 * max(1.0, abs($mean))) {
                $terms[] = ['column' => $column, 'level' => $level, 'mean' => $mean, 'sd' => $sd, 'weight' => 0.0];
                $columns[] = array_map(static fn (float $v) => $v === $v ? ($v - $mean) / $sd : 0.0, $values);
            }
        }
        [$terms, $columns] = self::strongest($terms, $columns, array_map(static fn (float $v) => $v - $base, $y));
        $matrix = $side = [];
        foreach ($columns as $i => $a) {
            for ($j = 0; $j <= $i; ++$j) {
                $b = $columns[$j];
                $sum = $i === $j ? self::RIDGE : 0.0;
                for ($r = 0; $r < $n; ++$r) {
                    $sum += $a[$r] * $b[$r];
                }
                $matrix[$i][$j] = $matrix[$j][$i] = $sum;
            }
            $sum = 0.0;
            foreach ($a as $r => $v) {
                $sum += $v * ($y[$r] - $base);
            }
            $side[$i] = $sum;
        }
        if ([] !== $terms) {
            $matrix = array_map(static function (array $row): array {
                ksort($row);

                return array_values($row);
            }, $matrix);
            try {
                $weights = Cholesky::of(array_values($matrix))->solve(array_values($side));
                $terms = array_map(static fn (array $term, float $w) => ['weight' => $w] + $term, $terms, $weights);
            } catch (NotPositiveDefinite) {
                // The ridge makes this impossible but for overflow; the mean is left.
                $terms = [];
            }
        }

        return new self($base, $terms);
    }

    /**
     * The terms that go together with the values most: the time a fit takes grows with the square of their number.
     *
     * @param list<array{column: string, level: ?string, mean: float, sd: float, weight: float}> $terms
     * @param list<list<float>>                                                                  $columns standardized
     * @param list<float>                                                                        $y       centered
     *
     * @return array{list<array{column: string, level: ?string, mean: float, sd: float, weight: float}>, list<list<float>>}
     */
    private static function strongest(array $terms, array $columns, array $y): array
    {
        $strength = [];
        foreach ($columns as $i => $column) {
            $sum = 0.0;
            foreach ($column as $r => $v) {
                $sum += $v * $y[$r];
            }
            $strength[$i] = abs($sum);
        }
        // A stable sort: of equal ones the first is taken.
        arsort($strength, \SORT_NUMERIC);
        $kept = \array_slice(array_keys($strength), 0, self::MOST_TERMS);
        sort($kept);

        return [array_map(static fn (int $i) => $terms[$i], $kept), array_map(static fn (int $i) => $columns[$i], $kept)];
    }

    /**
     * @param list<int> $rows
     *
     * @return list<array{string, ?string}> columns, and levels of categories
     */
    private static function candidates(Table $table, string $name, array $rows): array
    {
        $out = [];
        foreach ($table->names() as $other) {
            $column = $table->column($other);
            if ($other !== $name && $column instanceof NumberColumn) {
                $out[] = [$other, null];
            } elseif ($column instanceof CodedColumn) {
                $levels = array_map(static fn (int $code) => $column->levels[$code], array_keys(array_filter($column->counts($rows))));
                // Byte order: what is learned must not depend on the order in which levels were met.
                sort($levels, \SORT_STRING);
                foreach (\count($levels) <= self::MOST_LEVELS ? $levels : [] as $level) {
                    $out[] = [$other, $level];
                }
            }
        }

        return $out;
    }

    /**
     * @param list<int> $rows
     *
     * @return list<float> NAN = missing
     */
    private static function values(Table $table, string $name, ?string $level, array $rows): array
    {
        $column = $table->has($name) ? $table->column($name) : null;
        $out = [];
        if ($column instanceof NumberColumn && null === $level) {
            foreach ($rows as $row) {
                $out[] = $column->values[$row];
            }
        } elseif ($column instanceof CodedColumn && null !== $level) {
            $code = array_search($level, $column->levels, true);
            foreach ($rows as $row) {
                $out[] = $column->codes[$row] < 0 ? \NAN : ($column->codes[$row] === $code ? 1.0 : 0.0);
            }
        } else {
            $out = [] === $rows ? [] : array_fill(0, \count($rows), \NAN);
        }

        return $out;
    }

    /**
     * @param list<int> $rows
     *
     * @return array<int, float> by row
     */
    public function predict(Table $table, array $rows): array
    {
        $out = array_fill_keys($rows, $this->base);
        foreach ($this->terms as $term) {
            foreach (self::values($table, $term['column'], $term['level'], $rows) as $i => $v) {
                if ($v === $v) {
                    $out[$rows[$i]] += $term['weight'] * ($v - $term['mean']) / $term['sd'];
                }
            }
        }

        return $out;
    }

    /** @return list<string> those a name could stand for, most like first */
    public function columns(): array
    {
        return array_values(array_unique(array_column($this->terms, 'column')));
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['base' => $this->base, 'terms' => $this->terms];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{base: float, terms: list<array{column: string, level: ?string, mean: float, sd: float, weight: float}>} $data */
        return new self((float) $data['base'], $data['terms']);
    }
}
