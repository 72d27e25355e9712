<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * How a table becomes a matrix, learned on training rows: the constant first, numbers as they are, dates as days since 1970,
 * categories as one 0/1 column per level but the first in byte order.
 */
final readonly class Coding
{
    public const MOST_LEVELS = 100;

    /**
     * @param list<string>                $columns the columns used, in order
     * @param list<Term>                  $terms   without the constant
     * @param array<string, list<string>> $levels  the levels known for each category, the reference first
     * @param array<string, string>       $leftOut column => why
     */
    private function __construct(public array $columns, public array $terms, public array $levels, public array $leftOut)
    {
    }

    /**
     * @param list<string> $inputs
     * @param list<int>    $rows   training rows
     */
    public static function learn(Table $table, array $inputs, array $rows): self
    {
        $columns = $terms = $levels = $leftOut = [];
        foreach ($inputs as $name) {
            $column = $table->column($name);
            if ($column instanceof CodedColumn) {
                $seen = [];
                foreach ($column->counts($rows) as $code => $count) {
                    if ($count > 0) {
                        $seen[] = $column->levels[$code];
                    }
                }
                sort($seen, \SORT_STRING);
                if (\count($seen) > self::MOST_LEVELS) {
                    $leftOut[$name] = \sprintf('%s different values are too many for one term each', number_format(\count($seen)));
                    continue;
                }
                if (\count($seen) < 2) {
                    $leftOut[$name] = 'the same value in every training row';
                    continue;
                }
                $levels[$name] = $seen;
                foreach (\array_slice($seen, 1) as $level) {
                    $terms[] = new Term($name, $level);
                }
            } elseif ($column instanceof NumberColumn || $column instanceof DateColumn) {
                if (self::isConstant($column, $rows)) {
                    $leftOut[$name] = 'the same value in every training row';
                    continue;
                }
                $terms[] = new Term($name);
            } else {
                $leftOut[$name] = \sprintf('a column of kind %s has no numbers to learn from', $column->kind()->value);
                continue;
            }
            $columns[] = $name;
        }

        return new self($columns, $terms, $levels, $leftOut);
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
     * The given rows that have a finite value in every column used.
     *
     * @param list<int> $rows
     *
     * @return list<int>
     */
    public function complete(Table $table, array $rows): array
    {
        foreach ($this->columns as $name) {
            $column = $table->column($name);
            $kept = [];
            // What overflowed while it was read is no number to add up.
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
            if ($column instanceof CodedColumn) {
                $effects = [-1 => \NAN];
                foreach ($column->levels as $code => $level) {
                    $effects[$code] = $coefficients[(new Term($name, $level))->name()] ?? 0.0;
                }
                $codes = $column->codes;
                foreach ($rows as $i => $row) {
                    $out[$i] += $effects[$codes[$row]];
                }
                continue;
            }
            $b = $coefficients[$name] ?? 0.0;
            if ($column instanceof NumberColumn) {
                $values = $column->values;
                foreach ($rows as $i => $row) {
                    $out[$i] += $b * $values[$row];
                }
            } elseif ($column instanceof DateColumn) {
                $seconds = $column->seconds;
                foreach ($rows as $i => $row) {
                    $out[$i] += DateColumn::MISSING === $seconds[$row] ? \NAN : $b * ($seconds[$row] / DateColumn::DAY);
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

    private static function otherKind(string $name, string $kind): \DomainException
    {
        return new \DomainException(\sprintf('Column "%s" is %s in this table; the model learned it as numbers or categories.', $name, $kind));
    }

    /**
     * A level never seen in training counts as none of the known ones: all its columns are 0.
     *
     * @param list<int> $rows rows without missing values in the columns used
     */
    public function matrix(Table $table, array $rows): Matrix
    {
        $columns = [array_fill(0, \count($rows), 1.0)];
        $names = ['(intercept)'];
        foreach ($this->terms as $term) {
            $columns[] = $this->values($table, $term, $rows);
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
    private function values(Table $table, Term $term, array $rows): array
    {
        $column = $table->column($term->column);
        $out = [];
        if ($column instanceof NumberColumn) {
            $values = $column->values;
            foreach ($rows as $row) {
                $out[] = $values[$row];
            }
        } elseif ($column instanceof DateColumn) {
            $seconds = $column->seconds;
            foreach ($rows as $row) {
                $out[] = (float) ($seconds[$row] / DateColumn::DAY);
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

    /** @return array{columns: list<string>, terms: list<array{column: string, level: ?string}>, levels: array<string, list<string>>, left_out: array<string, string>} */
    public function toArray(): array
    {
        return [
            'columns' => $this->columns,
            'terms' => array_map(static fn (Term $t) => ['column' => $t->column, 'level' => $t->level], $this->terms),
            'levels' => $this->levels,
            'left_out' => $this->leftOut,
        ];
    }

    /** @param array{columns: list<string>, terms: list<array{column: string, level: ?string}>, levels: array<string, list<string>>, left_out: array<string, string>} $data */
    public static function fromArray(array $data): self
    {
        return new self($data['columns'], array_map(static fn (array $t) => new Term($t['column'], $t['level']), $data['terms']), $data['levels'], $data['left_out']);
    }
}
