<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\OtherKind;
use Dokimos\Core\Table\Table;

/**
 * How a table becomes a matrix, learned on training rows: the constant first, numbers as they are, dates as days since 1970,
 * categories in one of four ways. A category of very many levels becomes the mean of the outcome among records of the same value.
 * Missing values leave a row out, or are filled with the mean and marked. Definition: docs/methods/design.md.
 */
final readonly class Coding
{
    public const MOST_LEVELS = 100;
    public const LEAVE_OUT = 'leave the row out';
    public const MARK = 'fill and mark';

    /**
     * @param list<string>                $columns the columns used, in order
     * @param list<Term>                  $terms   without the constant
     * @param array<string, list<string>> $levels  the levels known for each category, in the order of its terms
     * @param array<string, string>       $leftOut column => why
     * @param array<string, float>        $fills   what stands for a missing number or date, where such are filled; 0 for categories
     * @param array<string, TargetMeans>  $means   of categories that are read so
     * @param array<string, list<string>> $rare    levels of each category that share a term
     * @param array<string, Bends>        $bends   of numbers that follow a curve
     */
    private function __construct(
        public array $columns,
        public array $terms,
        public array $levels,
        public array $leftOut,
        private array $fills = [],
        private array $means = [],
        public array $rare = [],
        public array $bends = [],
    ) {
    }

    /**
     * @param list<string>               $inputs
     * @param list<int>                  $rows    training rows
     * @param array<string, list<float>> $targets outcomes by their name, for categories of many levels
     * @param ?list<float>               $weights
     */
    public static function learn(
        Table $table,
        array $inputs,
        array $rows,
        array $targets = [],
        ?array $weights = null,
        Reading $reading = new Reading(),
    ): self {
        $columns = $terms = $levels = $leftOut = $fills = $means = $rares = $bends = [];
        $marks = $reading->marks;
        foreach ($inputs as $name) {
            $column = $table->column($name);
            $missing = $marks && Measured::lacks($column, $rows);
            if ($column instanceof CodedColumn) {
                $way = $reading->way($name);
                [$seen, $rare] = self::seen($column, $rows, $reading->rare, Reading::ORDERED === $way);
                if (\count($seen) + (int) ([] !== $rare) + (int) $missing < 2) {
                    $leftOut[$name] = 'the same value in every training row';
                    continue;
                }
                if (Reading::MEANS === $way || \count($seen) > self::MOST_LEVELS) {
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
                    foreach (Reading::EACH === $way ? $seen : \array_slice($seen, 1) as $level) {
                        $terms[] = new Term($name, $level, onward: Reading::ORDERED === $way);
                    }
                    if ([] !== $rare) {
                        $rares[$name] = $rare;
                        if ([] !== $seen) {
                            $terms[] = new Term($name, others: true);
                        }
                    }
                }
                if ($marks) {
                    $fills[$name] = 0.0;
                }
            } elseif ($column instanceof NumberColumn || $column instanceof DateColumn) {
                $mean = $marks ? Measured::mean($column, $rows) : null;
                $constant = Measured::isConstant($column, $rows);
                if ($constant && (!$missing || null === $mean)) {
                    $leftOut[$name] = $missing ? 'no value in any training row' : 'the same value in every training row';
                    continue;
                }
                if (!$constant) {
                    $terms[] = new Term($name);
                    $own = $reading->bends($name) ? Bends::learn(Measured::of($column, $rows), $reading->knots) : null;
                    for ($j = 1; null !== $own && $j <= $own->more(); ++$j) {
                        $terms[] = new Term($name, bend: $j);
                        $bends[$name] = $own;
                    }
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

        return new self($columns, $terms, $levels, $leftOut, $fills, $means, $rares, $bends);
    }

    /** @return list<string> columns that were given and left out, so that a model of some of the others still says why */
    public function unused(): array
    {
        return array_map(strval(...), array_keys($this->leftOut));
    }

    /**
     * The same for some of the columns.
     *
     * @param list<string> $columns
     */
    public function only(array $columns): self
    {
        $in = array_flip($columns);

        return new self(
            array_values(array_filter($this->columns, static fn (string $c): bool => isset($in[$c]))),
            array_values(array_filter($this->terms, static fn (Term $t): bool => isset($in[$t->column]))),
            array_intersect_key($this->levels, $in),
            $this->leftOut,
            array_intersect_key($this->fills, $in),
            array_intersect_key($this->means, $in),
            array_intersect_key($this->rare, $in),
            array_intersect_key($this->bends, $in),
        );
    }

    /**
     * The levels of the training rows in the order of their terms, and those too rare for a term of their own.
     *
     * @param list<int> $rows
     * @param bool      $ordered numbers within texts count as numbers
     *
     * @return array{list<string>, list<string>}
     */
    private static function seen(CodedColumn $column, array $rows, int $least, bool $ordered): array
    {
        $seen = $rare = [];
        foreach ($column->counts($rows) as $code => $count) {
            if ($count >= max(1, $least)) {
                $seen[] = $column->levels[$code];
            } elseif ($count > 0) {
                $rare[] = $column->levels[$code];
            }
        }
        sort($rare, \SORT_STRING);

        return [LevelOrder::of($seen, $ordered), $rare];
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
            if ($column instanceof CodedColumn) {
                $effects = $this->effectsOf($column, $name, $coefficients);
                $codes = $column->codes;
                foreach ($rows as $i => $row) {
                    $out[$i] += $effects[$codes[$row]];
                }
            } elseif ($column instanceof NumberColumn || $column instanceof DateColumn) {
                $b = $coefficients[$name] ?? 0.0;
                $curve = $this->curve($name, $coefficients);
                $else = $this->elseOf($name, $coefficients);
                foreach (Measured::of($column, $rows) as $i => $v) {
                    $out[$i] += is_finite($v) ? (null === $curve ? $b * $v : $curve($v)) : $else;
                }
            } else {
                throw new OtherKind($name, $column, OtherKind::EITHER);
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
     * What a number that bends adds at a value.
     *
     * @param array<array-key, float> $coefficients by term
     *
     * @return (\Closure(float): float)|null null for a number that goes straight
     */
    public function curve(string $name, array $coefficients): ?\Closure
    {
        $bends = $this->bends[$name] ?? null;
        if (null === $bends) {
            return null;
        }
        $straight = $coefficients[$name] ?? 0.0;
        $more = [];
        for ($j = 1; $j <= $bends->more(); ++$j) {
            $more[$j] = $coefficients[(new Term($name, bend: $j))->name()] ?? 0.0;
        }

        return static function (float $x) use ($bends, $straight, $more): float {
            $sum = $straight * $x;
            foreach ($more as $j => $b) {
                $sum += $b * $bends->of($j, $x);
            }

            return $sum;
        };
    }

    /** @return list<string> values of a category that training rows had, the missing one left out */
    public function known(string $name): array
    {
        return isset($this->means[$name])
            ? array_values(
                array_filter(array_map(strval(...), array_keys($this->means[$name]->byLevel)), static fn (string $l): bool => '' !== $l),
            )
            : [...$this->levels[$name], ...$this->rare[$name] ?? []];
    }

    /**
     * What a missing number or date adds; NAN where it leaves the row without an answer.
     *
     * @param array<array-key, float> $coefficients
     */
    public function elseOf(string $name, array $coefficients): float
    {
        if (!isset($this->fills[$name])) {
            return \NAN;
        }
        $curve = $this->curve($name, $coefficients);
        $fill = $this->fills[$name];

        return (null === $curve
            ? ($coefficients[$name] ?? 0.0) * $fill
            : $curve($fill)) + ($coefficients[(new Term($name, missing: true))->name()] ?? 0.0);
    }

    /**
     * What each code of a category adds, by code; what is missing by -1, NAN where it leaves the row without an answer.
     *
     * @param array<array-key, float> $coefficients
     *
     * @return array<int, float>
     */
    public function effectsOf(CodedColumn $column, string $name, array $coefficients): array
    {
        $filled = isset($this->fills[$name]);
        $effects = $this->effects($column, $name, $coefficients);
        if (!isset($this->means[$name]) || !$filled) {
            $effects[-1] = $filled ? $coefficients[(new Term($name, missing: true))->name()] ?? 0.0 : \NAN;
        }

        return $effects;
    }

    /**
     * @param array<array-key, float> $coefficients
     *
     * @return array<int, float> what each code of a category adds
     */
    private function effects(CodedColumn $column, string $name, array $coefficients): array
    {
        $effects = array_fill_keys(array_keys($column->levels), 0.0);
        foreach ($this->terms as $term) {
            $b = $coefficients[$term->name()] ?? 0.0;
            if ($term->column === $name && !$term->missing && 0.0 !== $b) {
                foreach ($this->byCode($column, $term) as $code => $v) {
                    $effects[$code] = ($effects[$code] ?? 0.0) + $b * $v;
                }
            }
        }

        return $effects;
    }

    /**
     * What a term of a category is for each code of a column.
     *
     * @return array<int, float> by code; of missing cells by -1
     */
    private function byCode(CodedColumn $column, Term $term): array
    {
        if (null !== $term->mean) {
            return $this->means[$term->column]->byCode($column, $term->mean);
        }
        $places = array_flip($this->levels[$term->column]);
        $from = $places[$term->level ?? ''] ?? 0;
        $out = [-1 => 0.0];
        foreach ($column->levels as $code => $level) {
            $place = $places[$level] ?? null;
            $out[$code] = match (true) {
                $term->others => null === $place,
                $term->onward => null !== $place && $place >= $from,
                default => $level === $term->level,
            } ? 1.0 : 0.0;
        }

        return $out;
    }

    /**
     * A level never seen in training counts as a rare one where there are such, and as none of the known ones otherwise: all its columns
     * are 0.
     *
     * @param list<int> $rows    rows without missing values in the columns used
     * @param bool      $learned the rows are those it was learned on, in their table: means of the outcome leave the row's own out
     */
    public function matrix(Table $table, array $rows, bool $learned = false): Matrix
    {
        $names = ['(intercept)', ...array_map(static fn (Term $term): string => $term->name(), $this->terms)];
        // One column at a time, so that no two of them are held as they are.
        $columns = function () use ($table, $rows, $learned): \Generator {
            yield array_values(array_fill(0, \count($rows), 1.0));
            foreach ($this->terms as $term) {
                yield $this->values($table, $term, $rows, $learned);
            }
        };

        return Matrix::ofColumns($columns(), $names, \count($rows));
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
                $out[] = Measured::isKnown($column, $row) ? 0.0 : 1.0;
            }
        } elseif ($column instanceof NumberColumn || $column instanceof DateColumn) {
            $fill = $this->fills[$term->column] ?? \NAN;
            foreach (Measured::of($column, $rows) as $v) {
                $x = is_finite($v) ? $v : $fill;
                $out[] = null === $term->bend ? $x : $this->bends[$term->column]->of($term->bend, $x);
            }
        } elseif ($column instanceof CodedColumn) {
            if ($learned && null !== $term->mean) {
                return $this->means[$term->column]->whereLearned($rows, $term->mean);
            }
            $byCode = $this->byCode($column, $term);
            $codes = $column->codes;
            foreach ($rows as $row) {
                $out[] = $byCode[$codes[$row]];
            }
        } else {
            throw new OtherKind($term->column, $column, OtherKind::EITHER);
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
            'rare' => $this->rare,
        ] + ([] === $this->bends ? [] : ['knots' => array_map(static fn (Bends $b): array => $b->knots, $this->bends)]);
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     columns: list<string>,
         *     terms: list<array{column: string, level: ?string, missing?: bool, mean?: int, of?: string, onward?: bool, others?: bool}>,
         *     levels: array<string, list<string>>, left_out: array<string, string>, fills?: array<string, float|int>,
         *     means?: array<string, array{by_level: list<array{string, list<float|int>}>, overall: list<float|int>}>,
         *     rare?: array<string, list<string>>, knots?: array<string, list<float|int>>,
         * } $data
         */
        return new self(
            $data['columns'],
            array_map(Term::fromArray(...), $data['terms']),
            $data['levels'],
            $data['left_out'],
            array_map(floatval(...), $data['fills'] ?? []),
            array_map(TargetMeans::fromArray(...), $data['means'] ?? []),
            $data['rare'] ?? [],
            array_map(Bends::at(...), $data['knots'] ?? []),
        );
    }
}
