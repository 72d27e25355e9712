<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Neighbors;

use Dokimos\Core\Design\Measured;
use Dokimos\Core\Learn\Moments;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\OtherKind;
use Dokimos\Core\Table\Table;

/**
 * How far records lie from each other: numbers and dates by their standard deviation among training rows, other values the same or not, and
 * a value that is missing in either as far as a mismatch. Definition: docs/methods/neighbors.md.
 */
final readonly class Space
{
    /**
     * @param list<string>                                                    $columns numbers before categories, each in the order of the
     *                                                                                 inputs
     * @param list<array{mean: float, sd: float}|array{levels: list<string>}> $scales
     * @param list<int>                                                       $places  of the columns among the inputs: sums run in this
     *                                                                                 order
     * @param array<array-key, string>                                        $leftOut and why
     */
    private function __construct(public array $columns, public array $scales, public array $places, public array $leftOut)
    {
    }

    /**
     * @param list<string> $inputs
     * @param list<int>    $rows   training rows
     */
    public static function learn(Table $table, array $inputs, array $rows): self
    {
        $numbers = $categories = $leftOut = [];
        foreach ($inputs as $place => $name) {
            $column = $table->column($name);
            if ($column instanceof CodedColumn) {
                $levels = [];
                foreach ($column->counts($rows) as $code => $count) {
                    if ($count > 0) {
                        $levels[] = $column->levels[$code];
                    }
                }
                if ([] === $levels) {
                    $leftOut[$name] = 'no value in any training row';
                    continue;
                }
                $categories[] = [$name, ['levels' => $levels], $place];
            } elseif ($column instanceof NumberColumn || $column instanceof DateColumn) {
                $values = array_values(array_filter(Measured::of($column, $rows), is_finite(...)));
                [, $mean, $sd] = Moments::of($values, array_fill(0, \count($values), 1.0));
                if (is_nan($sd) || $sd <= 0.0) {
                    $leftOut[$name] = [] === $values ? 'no value in any training row' : 'the same value in every training row';
                    continue;
                }
                $numbers[] = [$name, ['mean' => $mean, 'sd' => $sd], $place];
            } else {
                $leftOut[$name] = \sprintf('no distance is told between values of kind %s', $column->kind()->value);
            }
        }
        $all = [...$numbers, ...$categories];

        return new self(array_column($all, 0), array_column($all, 1), array_column($all, 2), $leftOut);
    }

    public function isNumber(int $column): bool
    {
        return isset($this->scales[$column]['sd']);
    }

    /**
     * @param ?list<int> $rows  all rows when null
     * @param bool       $asked whether these are records to be answered: a level never seen is a mismatch to all
     *
     * @return list<list<float>> per column, one value a row: numbers as they are, NAN = missing; categories by the place of their level,
     *                           -1 = missing, -2 = missing or never seen in a record that is asked
     */
    public function of(Table $table, ?array $rows, bool $asked): array
    {
        $rows ??= $table->rows > 0 ? range(0, $table->rows - 1) : [];
        $out = [];
        foreach ($this->columns as $c => $name) {
            $column = $table->column($name);
            $out[] = isset($this->scales[$c]['sd'])
                ? self::numbers($name, $column, $rows)
                : self::places($name, $column, $rows, $this->scales[$c]['levels'] ?? [], $asked ? -2.0 : -1.0);
        }

        return $out;
    }

    /**
     * @param list<int> $rows
     *
     * @return list<float>
     */
    private static function numbers(string $name, Column $column, array $rows): array
    {
        if (!$column instanceof NumberColumn && !$column instanceof DateColumn) {
            throw new OtherKind($name, $column, OtherKind::NUMBER);
        }
        $out = [];
        foreach (Measured::of($column, $rows) as $v) {
            $out[] = is_finite($v) ? $v : \NAN;
        }

        return $out;
    }

    /**
     * @param list<int>    $rows
     * @param list<string> $levels
     *
     * @return list<float>
     */
    private static function places(string $name, Column $column, array $rows, array $levels, float $none): array
    {
        if (!$column instanceof CodedColumn) {
            throw new OtherKind($name, $column, OtherKind::CATEGORY);
        }
        $known = array_flip($levels);
        $map = [-1 => $none];
        foreach ($column->levels as $code => $level) {
            $map[$code] = (float) ($known[$level] ?? $none);
        }
        $out = [];
        foreach ($rows as $row) {
            $out[] = $map[$column->codes[$row]];
        }

        return $out;
    }

    /** @return float the spread of a number; NAN of a category */
    public function sd(int $column): float
    {
        return (float) ($this->scales[$column]['sd'] ?? \NAN);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['columns' => $this->columns, 'scales' => $this->scales, 'places' => $this->places, 'left_out' => $this->leftOut];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     columns: list<string>, scales: list<array{mean?: float|int, sd?: float|int, levels?: list<string>}>,
         *     places: list<int>, left_out: array<array-key, string>,
         * } $data
         */
        return new self($data['columns'], array_map(
            static fn (array $s): array => isset($s['sd'])
                ? ['mean' => (float) ($s['mean'] ?? 0.0), 'sd' => (float) $s['sd']]
                : ['levels' => $s['levels'] ?? []],
            $data['scales'],
        ), $data['places'], $data['left_out']);
    }
}
