<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Network;

use Dokimos\Core\Design\Measured;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Expression\Named;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Learn\Moments;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\OtherKind;
use Dokimos\Core\Table\Table;

/**
 * How a table becomes inputs: numbers and dates over their spread, held within three spreads of their mean, missing ones as the mean with
 * a mark; categories one input a value, or as an embedding from so many values on. Values of few rows, and those never seen, are one.
 * Definition: docs/methods/neural-network.md.
 */
final readonly class Encoding
{
    private const HELD = 3.0;
    private const RARE = 5;
    private const MOST = 2000;

    /**
     * @param list<array{name: string, mean?: float, sd?: float, mark?: bool, levels?: list<string>, embed?: int}> $columns embed: numbers
     *                                                                                                                      of its embedding
     * @param array<array-key, string>                                                                             $leftOut and why
     */
    private function __construct(public array $columns, public array $leftOut)
    {
    }

    /**
     * @param list<string> $inputs
     * @param list<int>    $rows   training rows
     * @param int          $each   values of a category, at most, that have an input each
     */
    public static function learn(Table $table, array $inputs, array $rows, int $each): self
    {
        $columns = $leftOut = [];
        foreach ($inputs as $name) {
            $column = $table->column($name);
            if ($column instanceof CodedColumn) {
                $counts = [];
                foreach ($column->counts($rows) as $code => $count) {
                    if ($count > 0) {
                        $counts[$column->levels[$code]] = $count;
                    }
                }
                uksort(
                    $counts,
                    static fn (int|string $a, int|string $b): int => $counts[$b] <=> $counts[$a] ?: strcmp((string) $a, (string) $b),
                );
                $levels = array_map(
                    strval(...),
                    array_keys(\array_slice(array_filter($counts, static fn (int $n): bool => $n >= self::RARE), 0, self::MOST, true)),
                );
                if ([] === $levels) {
                    $leftOut[$name] = \sprintf('no value of it stands in %d training rows', self::RARE);
                } else {
                    $columns[] = ['name' => $name, 'levels' => $levels]
                        + (\count($levels) > $each ? ['embed' => min(8, (int) ceil(\count($levels) ** 0.4))] : []);
                }
            } elseif ($column instanceof NumberColumn || $column instanceof DateColumn) {
                $values = array_values(array_filter(Measured::of($column, $rows), is_finite(...)));
                [, $mean, $sd] = Moments::of($values, array_fill(0, \count($values), 1.0));
                $mark = \count($values) < \count($rows);
                if (is_nan($sd) || $sd <= 0.0) {
                    $leftOut[$name] = [] === $values ? 'no value in any training row' : 'the same value in every training row';
                } else {
                    $columns[] = ['name' => $name, 'mean' => $mean, 'sd' => $sd, 'mark' => $mark];
                }
            } else {
                $leftOut[$name] = \sprintf('a column of kind %s has no numbers to learn from', $column->kind()->value);
            }
        }

        return new self($columns, $leftOut);
    }

    /** @return list<string> */
    public function names(): array
    {
        return array_column($this->columns, 'name');
    }

    /** Inputs that come as they are. */
    public function direct(): int
    {
        $many = 0;
        foreach ($this->columns as $c) {
            // One more for values of few rows, and never seen; one more for missing.
            $many += isset($c['sd']) ? 1 + (int) ($c['mark'] ?? false) : (isset($c['embed']) ? 0 : \count($c['levels'] ?? []) + 2);
        }

        return $many;
    }

    /** @return list<array{int, int}> values and numbers of each embedding */
    public function embeds(): array
    {
        $out = [];
        foreach ($this->columns as $c) {
            if (isset($c['embed'])) {
                $out[] = [\count($c['levels'] ?? []) + 2, $c['embed']];
            }
        }

        return $out;
    }

    /**
     * @param ?list<int> $rows all rows when null
     */
    public function of(Table $table, ?array $rows): Inputs
    {
        $rows ??= $table->rows > 0 ? range(0, $table->rows - 1) : [];
        $read = $levels = [];
        $unit = 0;
        foreach ($this->columns as $c) {
            $column = $table->column($c['name']);
            if (isset($c['sd'])) {
                if (!$column instanceof NumberColumn && !$column instanceof DateColumn) {
                    throw new OtherKind($c['name'], $column, OtherKind::NUMBER);
                }
                $own = [];
                foreach (Measured::of($column, $rows) as $v) {
                    $own[] = is_finite($v) ? max(-self::HELD, min(self::HELD, ($v - ($c['mean'] ?? 0.0)) / $c['sd'])) : \NAN;
                }
                $read[] = [$unit, $own, $c['mark'] ?? false];
                $unit += 1 + (int) ($c['mark'] ?? false);
                continue;
            }
            if (!$column instanceof CodedColumn) {
                throw new OtherKind($c['name'], $column, OtherKind::CATEGORY);
            }
            $known = array_flip($c['levels'] ?? []);
            $other = \count($known);
            $map = [-1 => $other + 1];
            foreach ($column->levels as $code => $level) {
                $map[$code] = $known[$level] ?? $other;
            }
            $own = [];
            foreach ($rows as $row) {
                $own[] = $map[$column->codes[$row]];
            }
            if (isset($c['embed'])) {
                $levels[] = $own;
            } else {
                $read[] = [$unit, $own, null];
                $unit += $other + 2;
            }
        }
        $start = $index = $value = [];
        foreach (array_keys($rows) as $i) {
            $start[] = \count($index);
            foreach ($read as [$at, $own, $mark]) {
                if (null === $mark) {
                    $index[] = $at + (int) $own[$i];
                    $value[] = 1.0;
                } elseif (is_nan($v = (float) $own[$i])) {
                    if ($mark) {
                        $index[] = $at + 1;
                        $value[] = 1.0;
                    }
                } elseif (0.0 !== $v) {
                    $index[] = $at;
                    $value[] = $v;
                }
            }
        }
        $start[] = \count($index);

        return new Inputs(\count($rows), $start, $index, $value, $levels);
    }

    /**
     * @param list<string>         $levels
     * @param \Closure(int): float $of     place of the value: one more for others, and one for missing
     */
    private static function told(Named $column, array $levels, \Closure $of): Lookup
    {
        $many = \count($levels);

        return new Lookup($column, array_combine($levels, array_map($of, array_keys($levels))), $of($many), $of($many + 1));
    }

    /**
     * What inputs bring to each unit of the first layer, written out.
     *
     * @param list<float> $p parameters
     *
     * @return list<list<Expression>> terms by unit
     */
    public function terms(Frame $frame, array $p, Shape $shape): array
    {
        $next = $shape->sizes[1];
        $weight = static fn (int $input, int $unit): float => $p[$shape->weightsAt[0] + $input * $next + $unit];
        $out = array_fill(0, $next, []);
        $at = $embed = 0;
        foreach ($this->columns as $c) {
            $own = $frame->column($c['name']);
            if (isset($c['sd'])) {
                $z = Operation::of(
                    Operator::Over,
                    Operation::of(Operator::Less, $own, new Constant($c['mean'] ?? 0.0)),
                    new Constant($c['sd']),
                );
                $z = Operation::of(Operator::Most, Operation::of(Operator::Least, $z, new Constant(self::HELD)), new Constant(-self::HELD));
                for ($j = 0; $j < $next; ++$j) {
                    $none = new Constant($c['mark'] ?? false ? $weight($at + 1, $j) : 0.0);
                    $out[$j][] = new When(new IsMissing($own), $none, Operation::of(Operator::Times, new Constant($weight($at, $j)), $z));
                }
                $at += 1 + (int) ($c['mark'] ?? false);
                continue;
            }
            $levels = $c['levels'] ?? [];
            $many = \count($levels);
            if (!isset($c['embed'])) {
                for ($j = 0; $j < $next; ++$j) {
                    $out[$j][] = self::told($own, $levels, static fn (int $k): float => $weight($at + $k, $j));
                }
                $at += $many + 2;
                continue;
            }
            for ($t = 0; $t < $c['embed']; ++$t) {
                $value = self::told($own, $levels, static fn (int $k): float => $p[$shape->embedsAt[$embed] + $k * $c['embed'] + $t]);
                for ($j = 0; $j < $next; ++$j) {
                    $out[$j][] = Operation::of(Operator::Times, new Constant($weight($shape->embedsInto[$embed] + $t, $j)), $value);
                }
            }
            ++$embed;
        }

        return array_values($out);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['columns' => $this->columns, 'left_out' => $this->leftOut];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     columns: list<array{name: string, mean?: float|int, sd?: float|int, mark?: bool, levels?: list<string>, embed?: int}>,
         *     left_out: array<array-key, string>,
         * } $data
         */
        return new self(array_map(static function (array $c): array {
            foreach (['mean', 'sd'] as $key) {
                if (isset($c[$key])) {
                    $c[$key] = (float) $c[$key];
                }
            }

            return $c;
        }, $data['columns']), $data['left_out']);
    }
}
