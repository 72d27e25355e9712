<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;

/**
 * Looks for changes of a record that reach a wanted answer: few and cheap ones, like records really seen, and unlike one another. Single
 * changes
 * are weighed first, then the most promising are carried on with one more, up to four; each found is stripped of what it does not need. The
 * same for the same question. Definition: docs/methods/how-sure.md.
 */
final class Reach
{
    private const DEPTH = 4;
    private const BEAM = 60;
    private const GRID = 12;
    /** Changed records whose likeness is weighed. */
    private const WEIGHED = 120;
    /** Numbers that hardly move count for little; a standard deviation counts as much as this share of changing another column. */
    private const MOVE = 0.25;

    /** @var array<string, list<float|string>> values that each free column may take */
    private array $grids = [];
    /** @var array<string, float> spread of each free number */
    private array $spreads = [];
    /** @var array<string, Free> */
    private array $free = [];

    /**
     * @param \Closure(Table): Answers $answers
     * @param Table                    $record  one row, columns as they came
     * @param Table                    $seen    records really seen
     * @param list<Free>               $free    all others are fixed
     * @param ?Follows                 $follows columns that change with others by a formula
     */
    public function __construct(
        private readonly \Closure $answers,
        private readonly Table $record,
        Table $seen,
        array $free,
        private readonly Likeness $likeness,
        private readonly ?Follows $follows = null,
    ) {
        foreach ($free as $one) {
            $this->free[$one->column] = $one;
            $this->grids[$one->column] = $this->grid($one, $seen);
        }
    }

    /**
     * @param float $likely least likeness of an answer
     * @param int   $most   answers
     *
     * @return array{found: list<Reached>, nearest: ?Reached, tried: int} those that reach it, cheapest first; the nearest where none does
     */
    public function of(Want $want, float $likely, int $most = 5): array
    {
        $base = ($this->answers)($this->record);
        $beam = [[]];
        $found = $all = [];
        $tried = 0;
        for ($depth = 0; $depth < self::DEPTH && [] !== $beam; ++$depth) {
            $states = $this->grown($beam);
            if ([] === $states) {
                break;
            }
            $tried += \count($states);
            $weighed = $this->weighed($states, $want);
            foreach ($weighed as $one) {
                0.0 === $one[1] ? $found[] = $one : $all[] = $one;
            }
            $open = array_values(array_filter($weighed, static fn (array $w): bool => $w[1] > 0.0 && is_finite($w[1])));
            usort($open, static fn (array $a, array $b): int => $a[1] <=> $b[1] ?: $a[2] <=> $b[2]);
            $beam = array_map(static fn (array $w): array => $w[0], \array_slice($open, 0, self::BEAM));
            // Enough answers of few changes: more changes would be worse ones.
            if (\count($found) >= 4 * $most && $depth > 0) {
                break;
            }
        }
        usort($found, static fn (array $a, array $b): int => $a[2] <=> $b[2]);
        $picked = $this->unlike(
            \array_slice($this->stripped(\array_slice($found, 0, self::WEIGHED), $want), 0, self::WEIGHED),
            $likely,
            $most,
        );
        if ([] !== $picked) {
            return ['found' => $picked, 'nearest' => null, 'tried' => $tried];
        }
        // Reached but unlike anything seen, or not reached: the nearest that is likely enough, else the nearest.
        $rest = [...$found, ...$all];
        usort($rest, static fn (array $a, array $b): int => $a[1] <=> $b[1] ?: $a[2] <=> $b[2]);
        $nearest = null;
        foreach (\array_slice($rest, 0, self::WEIGHED) as $one) {
            $own = $this->told($one);
            if ($own->likeness >= $likely && $own->short > 0.0) {
                $nearest = $own;
                break;
            }
        }
        $nearest ??= [] === $rest ? null : $this->told($rest[0]);
        if (null === $nearest && $base->isKnown(0)) {
            $nearest = new Reached([], $base->of(0), $want->short($base, 0), 0.0, $this->likeness->of($this->record, 0));
        }

        return ['found' => [], 'nearest' => $nearest, 'tried' => $tried];
    }

    /** @return list<float|string> */
    private function grid(Free $free, Table $seen): array
    {
        $column = $seen->column($free->column);
        $own = $this->record->column($free->column);
        if ($column instanceof CodedColumn) {
            $counts = \array_slice($column->counts(), 0, \count($column->levels));
            arsort($counts);
            $levels = $free->values ?? array_map(
                static fn (int $c): string => $column->levels[$c],
                \array_slice(array_keys(array_filter($counts)), 0, self::GRID),
            );

            return array_values(array_filter($levels, static fn (string $l): bool => $l !== $own->text(0)));
        }
        if (!$column instanceof NumberColumn && !$column instanceof DateColumn) {
            return [];
        }
        $values = array_values(array_filter(self::numbers($column), is_finite(...)));
        if ([] === $values) {
            return [];
        }
        $mean = array_sum($values) / \count($values);
        $this->spreads[$free->column] = sqrt(array_sum(array_map(
            static fn (float $v): float => ($v - $mean) ** 2,
            $values,
        )) / max(1, \count($values) - 1));
        $whole = [] === array_filter($values, static fn (float $v): bool => floor($v) !== $v);
        $now = self::numbers($own)[0] ?? \NAN;
        $low = max($free->least ?? -\INF, Free::UP === $free->way && !is_nan($now) ? $now : -\INF);
        $high = min($free->most ?? \INF, Free::DOWN === $free->way && !is_nan($now) ? $now : \INF);
        $points = Accumulated::edges(
            array_values(array_filter($values, static fn (float $v): bool => $v >= $low && $v <= $high)),
            self::GRID,
        );
        foreach ([$free->least, $free->most] as $end) {
            if (null !== $end && $end >= $low && $end <= $high) {
                $points[] = $end;
            }
        }
        $out = [];
        foreach ($points as $point) {
            if (null !== $free->step && $free->step > 0.0 && !is_nan($now)) {
                $point = $now + round(($point - $now) / $free->step) * $free->step;
            }
            // Kinds stay: what was only ever whole stays whole.
            $point = $whole ? round($point) : (float) \sprintf('%.6g', $point);
            if ($point >= $low && $point <= $high && $point !== $now) {
                $out[(string) $point] = $point;
            }
        }
        sort($out);

        return $out;
    }

    /** @return list<float> */
    private static function numbers(\Dokimos\Core\Table\Column $column): array
    {
        return match (true) {
            $column instanceof NumberColumn => $column->values,
            $column instanceof DateColumn => array_map(
                static fn (int $s): float => DateColumn::MISSING === $s ? \NAN : $s / DateColumn::DAY,
                $column->seconds,
            ),
            default => array_fill(0, $column->count(), \NAN),
        };
    }

    /**
     * Each state with one more column changed.
     *
     * @param list<array<string, float|string>> $beam
     *
     * @return list<array<string, float|string>>
     */
    private function grown(array $beam): array
    {
        $out = [];
        foreach ($beam as $state) {
            foreach ($this->grids as $column => $values) {
                if (isset($state[$column])) {
                    continue;
                }
                foreach ($values as $value) {
                    $own = $state + [$column => $value];
                    ksort($own);
                    $out[json_encode($own, \JSON_THROW_ON_ERROR)] ??= $own;
                }
            }
        }

        return array_values($out);
    }

    /**
     * @param list<array<string, float|string>> $states
     *
     * @return list<array{array<string, float|string>, float, float, list<float>}> state, how far it is, cost, answer
     */
    private function weighed(array $states, Want $want): array
    {
        $answers = ($this->answers)($this->table($states));
        $out = [];
        foreach ($states as $i => $state) {
            $out[] = [$state, $want->short($answers, $i), $this->cost($state), $answers->isKnown($i) ? $answers->of($i) : []];
        }

        return $out;
    }

    /** @param list<array<string, float|string>> $states */
    private function table(array $states): Table
    {
        $n = \count($states);
        $table = $this->record->take(array_fill(0, $n, 0));
        foreach (array_keys($this->grids) as $column) {
            $own = $this->record->column($column);
            if ($own instanceof CodedColumn) {
                $table = $table->with($column, CodedColumn::fromCells(array_map(
                    static fn (array $s): ?string => isset($s[$column]) ? (string) $s[$column] : $own->text(0),
                    $states,
                ), $own->kind()));
                continue;
            }
            $now = self::numbers($own)[0] ?? \NAN;
            $values = array_map(static fn (array $s): float => isset($s[$column]) ? (float) $s[$column] : $now, $states);
            $table = $table->with($column, $own instanceof DateColumn
                ? new DateColumn(array_map(
                    static fn (float $v): int => is_nan($v) ? DateColumn::MISSING : (int) round($v * DateColumn::DAY),
                    $values,
                ))
                : new NumberColumn($values));
        }

        $changed = array_map(static fn (array $s): array => array_map(strval(...), array_keys($s)), $states);

        return $this->follows?->apply($table, $changed) ?? $table;
    }

    /** @param array<string, float|string> $state */
    private function cost(array $state): float
    {
        $sum = 0.0;
        foreach ($state as $column => $value) {
            $sum += $this->free[$column]->cost;
            $spread = $this->spreads[$column] ?? 0.0;
            $now = self::numbers($this->record->column($column))[0] ?? \NAN;
            if ($spread > 0.0 && \is_float($value) && !is_nan($now)) {
                $sum += self::MOVE * $this->free[$column]->cost * min(4.0, abs($value - $now) / $spread);
            }
        }

        return $sum;
    }

    /**
     * Each answer without the changes that it does not need.
     *
     * @param list<array{array<string, float|string>, float, float, list<float>}> $found
     *
     * @return list<array{array<string, float|string>, float, float, list<float>}> cheapest first, each once
     */
    private function stripped(array $found, Want $want): array
    {
        $out = [];
        foreach ($found as $one) {
            $state = $one[0];
            while (\count($state) > 1) {
                $fewer = [];
                foreach (array_keys($state) as $column) {
                    $fewer[] = array_diff_key($state, [$column => true]);
                }
                $reach = array_values(array_filter($this->weighed($fewer, $want), static fn (array $w): bool => 0.0 === $w[1]));
                if ([] === $reach) {
                    break;
                }
                usort($reach, static fn (array $a, array $b): int => $a[2] <=> $b[2]);
                [$one, $state] = [$reach[0], $reach[0][0]];
            }
            $out[json_encode($one[0], \JSON_THROW_ON_ERROR)] ??= $one;
        }
        usort($out, static fn (array $a, array $b): int => $a[2] <=> $b[2]);

        return $out;
    }

    /**
     * The cheapest that are likely enough, each changing other columns than those before it; then others, while there is room.
     *
     * @param list<array{array<string, float|string>, float, float, list<float>}> $found cheapest first
     *
     * @return list<Reached>
     */
    private function unlike(array $found, float $likely, int $most): array
    {
        $told = array_values(array_filter(array_map($this->told(...), $found), static fn (Reached $r): bool => $r->likeness >= $likely));
        $out = $columns = [];
        foreach ([true, false] as $other) {
            foreach ($told as $one) {
                $key = implode("\0", array_keys($one->changes));
                if (\count($out) < $most && !\in_array($one, $out, true) && (!$other || !isset($columns[$key]))) {
                    $out[] = $one;
                    $columns[$key] = true;
                }
            }
        }
        usort($out, static fn (Reached $a, Reached $b): int => $a->cost <=> $b->cost);

        return $out;
    }

    /** @param array{array<string, float|string>, float, float, list<float>} $one */
    private function told(array $one): Reached
    {
        $table = $this->table([$one[0]]);
        $followed = [];
        foreach ($this->follows?->columns() ?? [] as $name) {
            $column = $table->column($name);
            if ($column->text(0) !== $this->record->column($name)->text(0)) {
                $number = $column instanceof CodedColumn ? $column->text(0) : self::numbers($column)[0] ?? null;
                $followed[$name] = $column->isMissing(0) ? null : $number;
            }
        }

        return new Reached($one[0], $one[3], $one[1], $one[2], $this->likeness->of($table, 0), $followed);
    }
}
