<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * How a table becomes a matrix, learned on training rows: the constant first, numbers as they are, dates as days since 1970,
 * categories as one 0/1 column per level but the first in byte order. A category of more levels becomes the mean of the outcome
 * among records of the same value. Missing values leave a row out, or are filled with the mean and marked. Definition: docs/methods/design.md.
 */
final readonly class Coding
{
    public const MOST_LEVELS = 100;
    public const LEAVE_OUT = 'leave the row out';
    public const MARK = 'fill and mark';

    /**
     * @param list<string>                $columns the columns used, in order
     * @param list<Term>                  $terms   without the constant
     * @param array<string, list<string>> $levels  the levels known for each category, the reference first
     * @param array<string, string>       $leftOut column => why
     * @param array<string, float>        $fills   what stands for a missing number or date, where such are filled; 0 for categories
     * @param array<string, TargetMeans>  $means   of categories with many levels
     */
    private function __construct(public array $columns, public array $terms, public array $levels, public array $leftOut, private array $fills = [], private array $means = [])
    {
    }

    /**
     * @param list<string>               $inputs
     * @param list<int>                  $rows    training rows
     * @param array<string, list<float>> $targets outcomes by their name, for categories of many levels
     * @param ?list<float>               $weights
     */
    public static function learn(Table $table, array $inputs, array $rows, array $targets = [], ?array $weights = null, bool $marks = false): self
    {
        $columns = $terms = $levels = $leftOut = $fills = $means = [];
        foreach ($inputs as $name) {
            $column = $table->column($name);
            $missing = $marks && self::lacks($column, $rows);
            if ($column instanceof CodedColumn) {
                $seen = [];
                foreach ($column->counts($rows) as $code => $count) {
                    if ($count > 0) {
                        $seen[] = $column->levels[$code];
                    }
                }
                sort($seen, \SORT_STRING);
                if (\count($seen) + (int) $missing < 2) {
                    $leftOut[$name] = 'the same value in every training row';
                    continue;
                }
                if (\count($seen) > self::MOST_LEVELS) {
                    if ([] === $targets) {
                        $leftOut[$name] = \sprintf('%s different values are too many for one term each', number_format(\count($seen)));
                        continue;
                    }
                    $means[$name] = TargetMeans::learn($column, $rows, array_values($targets), $weights);
                    foreach (array_keys($targets) as $t => $what) {
                        $terms[] = new Term($name, mean: $t, ofWhat: (string) $what);
                    }
                } else {
                    $levels[$name] = $seen;
                    foreach (\array_slice($seen, 1) as $level) {
                        $terms[] = new Term($name, $level);
                    }
                }
                if ($marks) {
                    $fills[$name] = 0.0;
                }
            } elseif ($column instanceof NumberColumn || $column instanceof DateColumn) {
                $mean = $marks ? self::mean($column, $rows) : null;
                $constant = self::isConstant($column, $rows);
                if ($constant && (!$missing || null === $mean)) {
                    $leftOut[$name] = $missing ? 'no value in any training row' : 'the same value in every training row';
                    continue;
                }
                if (!$constant) {
                    $terms[] = new Term($name);
                }
                if (null !== $mean) {
                    $fills[$name] = $mean;
                }
            } else {
                $leftOut[$name] = \sprintf('a column of kind %s has no numbers to learn from', $column->kind()->value);
                continue;
            }
            if ($missing && !isset($means[$name])) {
                $terms[] = new Term($name, missing: true);
            }
            $columns[] = $name;
        }

        return new self($columns, $terms, $levels, $leftOut, $fills, $means);
    }

    /** What overflowed while it was read is no number to add up. */
    private static function isKnown(Column $column, int $row): bool
    {
        return $column instanceof NumberColumn ? is_finite($column->values[$row]) : !$column->isMissing($row);
    }

    /** @param list<int> $rows */
    private static function lacks(Column $column, array $rows): bool
    {
        foreach ($rows as $row) {
            if (!self::isKnown($column, $row)) {
                return true;
            }
        }

        return false;
    }

    /**
     * The mean of the values there are, in the unit of the matrix; null when there are none.
     *
     * @param list<int> $rows
     */
    private static function mean(NumberColumn|DateColumn $column, array $rows): ?float
    {
        $values = self::numbers($column, $rows);
        $sum = 0.0;
        $count = 0;
        foreach ($values as $v) {
            if (is_finite($v)) {
                // Step by step, since the sum of very large numbers may be no number.
                $sum += ($v - $sum) / ++$count;
            }
        }

        return $count > 0 ? $sum : null;
    }

    /**
     * @param list<int> $rows
     *
     * @return list<float> numbers as they are, dates as days since 1970; NAN = missing
     */
    private static function numbers(NumberColumn|DateColumn $column, array $rows): array
    {
        $out = [];
        if ($column instanceof NumberColumn) {
            $values = $column->values;
            foreach ($rows as $row) {
                $out[] = $values[$row];
            }

            return $out;
        }
        $seconds = $column->seconds;
        foreach ($rows as $row) {
            $out[] = DateColumn::MISSING === $seconds[$row] ? \NAN : (float) ($seconds[$row] / DateColumn::DAY);
        }

        return $out;
    }

    /** @param list<int> $rows */
    private static function isConstant(NumberColumn|DateColumn $column, array $rows): bool
    {
        $values = $column instanceof NumberColumn ? $column->values : $column->seconds;
        $first = null;
        foreach ($rows as $row) {
            if ($column->isMissing($row)) {
                continue;
            }
            $first ??= $values[$row];
            if ($values[$row] !== $first) {
                return false;
            }
        }

        return true;
    }

    /**
     * The given rows that have a finite value in every column used, where missing values are not filled.
     *
     * @param list<int> $rows
     *
     * @return list<int>
     */
    public function complete(Table $table, array $rows): array
    {
        foreach ($this->columns as $name) {
            if (isset($this->fills[$name])) {
                continue;
            }
            $column = $table->column($name);
            $kept = [];
            $values = $column instanceof NumberColumn ? $column->values : null;
            foreach ($rows as $row) {
                if (null === $values ? !$column->isMissing($row) : is_finite($values[$row])) {
                    $kept[] = $row;
                }
            }
            $rows = $kept;
        }

        return $rows;
    }

    /**
     * The sum of terms of each row, column by column: what the matrix times the coefficients would give.
     *
     * @param array<array-key, float> $coefficients by term, "(intercept)" too; terms without one count nothing
     * @param ?list<int>              $rows         all rows when null; a row may be asked for twice
     *
     * @return list<float> NAN where a needed value is missing
     */
    public function sums(Table $table, array $coefficients, ?array $rows = null): array
    {
        $rows ??= $table->rows > 0 ? range(0, $table->rows - 1) : [];
        $out = [] === $rows ? [] : array_fill(0, \count($rows), $coefficients['(intercept)'] ?? 0.0);
        foreach ($this->columns as $name) {
            $column = $table->column($name);
            $filled = isset($this->fills[$name]);
            $mark = $filled ? $coefficients[(new Term($name, missing: true))->name()] ?? 0.0 : \NAN;
            if ($column instanceof CodedColumn) {
                $effects = $this->effects($column, $name, $coefficients);
                if (!isset($this->means[$name]) || !$filled) {
                    $effects[-1] = $mark;
                }
                $codes = $column->codes;
                foreach ($rows as $i => $row) {
                    $out[$i] += $effects[$codes[$row]];
                }
            } elseif ($column instanceof NumberColumn || $column instanceof DateColumn) {
                $b = $coefficients[$name] ?? 0.0;
                $else = $filled ? $b * $this->fills[$name] + $mark : \NAN;
                foreach (self::numbers($column, $rows) as $i => $v) {
                    $out[$i] += is_finite($v) ? $b * $v : $else;
                }
            } else {
                throw self::otherKind($name, $column->kind()->value);
            }
        }
        foreach ($out as $i => $sum) {
            if (is_infinite($sum)) {
                $out[$i] = \NAN;
            }
        }

        return array_values($out);
    }

    /**
     * @param array<array-key, float> $coefficients
     *
     * @return array<int, float> what each code of a category adds
     */
    private function effects(CodedColumn $column, string $name, array $coefficients): array
    {
        $effects = [];
        if (!isset($this->means[$name])) {
            foreach ($column->levels as $code => $level) {
                $effects[$code] = $coefficients[(new Term($name, $level))->name()] ?? 0.0;
            }

            return $effects;
        }
        foreach ($this->terms as $term) {
            if ($term->column === $name && null !== $term->mean) {
                foreach ($this->means[$name]->byCode($column, $term->mean) as $code => $mean) {
                    $effects[$code] = ($effects[$code] ?? 0.0) + ($coefficients[$term->name()] ?? 0.0) * $mean;
                }
            }
        }

        return $effects;
    }

    private static function otherKind(string $name, string $kind): \DomainException
    {
        return new \DomainException(\sprintf('Column "%s" is %s in this table; the model learned it as numbers or categories.', $name, $kind));
    }

    /**
     * A level never seen in training counts as none of the known ones: all its columns are 0.
     *
     * @param list<int> $rows    rows without missing values in the columns used
     * @param bool      $learned the rows are those it was learned on, in their table: means of the outcome leave the row's own out
     */
    public function matrix(Table $table, array $rows, bool $learned = false): Matrix
    {
        $columns = [array_fill(0, \count($rows), 1.0)];
        $names = ['(intercept)'];
        foreach ($this->terms as $term) {
            $columns[] = $this->values($table, $term, $rows, $learned);
            $names[] = $term->name();
        }

        /** @var list<list<float>> $columns */
        return Matrix::ofColumns($columns, $names, \count($rows));
    }

    /**
     * @param list<int> $rows
     *
     * @return list<float>
     */
    private function values(Table $table, Term $term, array $rows, bool $learned): array
    {
        $column = $table->column($term->column);
        $out = [];
        if ($term->missing) {
            foreach ($rows as $row) {
                $out[] = self::isKnown($column, $row) ? 0.0 : 1.0;
            }
        } elseif ($column instanceof NumberColumn || $column instanceof DateColumn) {
            $fill = $this->fills[$term->column] ?? \NAN;
            foreach (self::numbers($column, $rows) as $v) {
                $out[] = is_finite($v) ? $v : $fill;
            }
        } elseif ($column instanceof CodedColumn && null !== $term->mean) {
            if ($learned) {
                return $this->means[$term->column]->whereLearned($rows, $term->mean);
            }
            $means = $this->means[$term->column]->byCode($column, $term->mean);
            foreach ($rows as $row) {
                $out[] = $means[$column->codes[$row]];
            }
        } elseif ($column instanceof CodedColumn) {
            $code = array_search($term->level, $column->levels, true);
            $codes = $column->codes;
            foreach ($rows as $row) {
                $out[] = $codes[$row] === $code ? 1.0 : 0.0;
            }
        } else {
            throw self::otherKind($term->column, $column->kind()->value);
        }

        return $out;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'columns' => $this->columns,
            'terms' => array_map(static fn (Term $t) => $t->toArray(), $this->terms),
            'levels' => $this->levels,
            'left_out' => $this->leftOut,
            'fills' => $this->fills,
            'means' => array_map(static fn (TargetMeans $m) => $m->toArray(), $this->means),
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{columns: list<string>, terms: list<array{column: string, level: ?string, missing?: bool, mean?: int, of?: string}>, levels: array<string, list<string>>, left_out: array<string, string>, fills?: array<string, float|int>, means?: array<string, array{by_level: list<array{string, list<float|int>}>, overall: list<float|int>}>} $data */
        return new self($data['columns'], array_map(Term::fromArray(...), $data['terms']), $data['levels'], $data['left_out'], array_map(floatval(...), $data['fills'] ?? []), array_map(TargetMeans::fromArray(...), $data['means'] ?? []));
    }
}
