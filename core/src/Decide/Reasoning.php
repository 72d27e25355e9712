<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

use Dokimos\Core\Explain\Accumulated;
use Dokimos\Core\Explain\Basis;
use Dokimos\Core\Explain\Follows;
use Dokimos\Core\Explain\Free;
use Dokimos\Core\Explain\LocalSurrogate;
use Dokimos\Core\Explain\Reach;
use Dokimos\Core\Explain\SampledAccount;
use Dokimos\Core\Explain\Told;
use Dokimos\Core\Explain\Want;
use Dokimos\Core\Learn\TakesTime;
use Dokimos\Core\Random;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Stacked;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;

/**
 * Why a model answers as it does, for any learner and any target, in columns as they came: all of it asks the model for answers, and
 * nothing else.
 * Chances are explained in points, numbers in their unit, of several classes the chance of one. Definition: docs/methods/accounts.md.
 */
final readonly class Reasoning
{
    /** Draws go on until no standard error is above half a point, or this share of the spread of the numbers predicted. */
    private const ENOUGH = 0.005;
    /** Background records, at least, and cells that are looked at for them: as many as take some seconds, and at the very most. */
    private const FEWEST = 16;
    private const CELLS = 50_000_000;
    private const MOST_CELLS = 400_000_000;
    private const SEED = 2026;
    public const POINTS = 20;
    private const LEVELS = 12;
    private const LOCAL = 400;
    /** Background records that an account is held against: all of those drawn. */
    private const AGAINST = 200;

    /** @param ?\Closure(?int): ?ExactAccount $exact what shares answers out exactly, where the model's form allows it */
    public function __construct(public ScoringModel $model, public Basis $basis, private ?\Closure $exact = null)
    {
    }

    /**
     * @param ?int $class of several, whose chance is explained
     *
     * @return \Closure(Table): list<float>
     */
    public function answers(?int $class): \Closure
    {
        return function (Table $table) use ($class): array {
            $answers = $this->model->answers($table);
            if (1 === $answers->width) {
                return $answers->values;
            }
            $out = [];
            for ($row = 0; $row < $table->rows; ++$row) {
                $out[] = $answers->ofClass($row, $class ?? 0);
            }

            return $out;
        };
    }

    /**
     * @param Table $record as the model's select() gives it, one row
     *
     * @return ?Told its players are columns, or those that something is made of together; null where there is no answer
     */
    public function account(Table $record, ?int $class, int $background = self::AGAINST): ?Told
    {
        $exact = null === $this->exact ? null : ($this->exact)($class);
        if (null !== $exact) {
            return $exact->told($this->model, $record);
        }
        $players = Players::of($this->model, $record->names());
        $background = min($background, $this->affordable(\count($players)));
        if ($background < self::FEWEST) {
            return null;
        }
        $of = $this->basis->background;
        $few = $background < $of->rows ? $of->take(range(0, $background - 1)) : $of;

        return SampledAccount::of(
            $this->answers($class),
            $few,
            $record,
            $players,
            $this->enough($class),
            self::SEED,
        );
    }

    /** Of a model that looks at its training rows for every answer fewer background records are asked, or none. */
    private function affordable(int $players): int
    {
        $model = $this->model->model;
        $cost = $model instanceof TakesTime ? 4 * $players * $model->cost() : 0;

        return match (true) {
            0 === $cost => \PHP_INT_MAX,
            $cost * self::FEWEST > self::MOST_CELLS => 0,
            default => max(self::FEWEST, intdiv(self::CELLS, $cost)),
        };
    }

    private function enough(?int $class): float
    {
        if (Task::NUMBER !== $this->model->task) {
            return self::ENOUGH;
        }
        $answers = array_filter(($this->answers($class))($this->basis->background), is_finite(...));

        return [] === $answers ? 0.0 : self::ENOUGH * (max($answers) - min($answers));
    }

    /**
     * The values that a column's curve goes through: numbers from the lowest to the highest seen, dates likewise, the most frequent values.
     *
     * @return list<float|string> none for a text
     */
    public function grid(string $column): array
    {
        $seen = $this->basis->seen->column($column);
        if ($seen instanceof CodedColumn && Kind::Text !== $seen->kind() && Kind::Identifier !== $seen->kind()) {
            $counts = \array_slice($seen->counts(), 0, \count($seen->levels));
            arsort($counts);
            $levels = array_map(
                static fn (int $c): string => $seen->levels[$c],
                \array_slice(array_keys(array_filter($counts)), 0, self::LEVELS),
            );
            sort($levels, \SORT_NATURAL);

            return $levels;
        }
        $values = match (true) {
            $seen instanceof NumberColumn => $seen->values,
            $seen instanceof DateColumn => array_map(
                static fn (int $s): float => DateColumn::MISSING === $s ? \NAN : $s / DateColumn::DAY,
                $seen->seconds,
            ),
            default => [],
        };
        $known = array_values(array_filter($values, is_finite(...)));
        if ([] === $known) {
            return [];
        }
        $different = array_values(array_unique($known));
        sort($different);
        if (\count($different) <= self::POINTS) {
            return $different;
        }
        // Even steps between the ends: the curve is read along its axis; where records are is told beneath it.
        [$low, $high] = [$different[0], $different[\count($different) - 1]];
        $whole = [] === array_filter($known, static fn (float $v): bool => floor($v) !== $v);
        $points = array_map(static fn (int $k): float => $low + ($high - $low) * $k / (self::POINTS - 1), range(0, self::POINTS - 1));

        return array_values(array_unique($whole ? array_map(round(...), $points) : $points));
    }

    /**
     * The answers for records as one of their columns goes through values.
     *
     * @param list<float|string> $grid
     *
     * @return list<list<float>> per record, one per value
     */
    public function curves(Table $records, string $column, array $grid, ?int $class): array
    {
        $n = $records->rows;
        $all = $rows = [];
        foreach (array_keys($grid) as $_) {
            array_push($rows, ...range(0, max(0, $n - 1)));
        }
        foreach ($grid as $value) {
            array_push($all, ...array_fill(0, $n, $value));
        }
        if ([] === $all) {
            return array_fill(0, $n, []);
        }
        $answers = ($this->answers($class))($records->take($rows)->with($column, self::filled($records, $column, $all)));
        $out = array_fill(0, $n, []);
        foreach ($answers as $k => $answer) {
            $out[$k % $n][] = $answer;
        }

        return array_values($out);
    }

    /** @param list<float|string|null> $values */
    private static function filled(Table $records, string $column, array $values): Column
    {
        $of = $records->column($column);
        if ($of instanceof NumberColumn) {
            return new NumberColumn(array_map(static fn (float|string|null $v): float => is_numeric($v) ? (float) $v : \NAN, $values));
        }
        if ($of instanceof DateColumn) {
            return new DateColumn(array_map(
                static fn (float|string|null $v): int => is_numeric($v) ? (int) round((float) $v * DateColumn::DAY) : DateColumn::MISSING,
                $values,
            ));
        }
        $cells = array_map(static fn (float|string|null $v): ?string => null === $v ? null : (string) $v, $values);

        return $of instanceof CodedColumn ? CodedColumn::fromCells($cells, $of->kind()) : new TextColumn($cells, $of->kind());
    }

    /**
     * A record with other cells: numbers, dates as days since 1970, or values.
     *
     * @param array<string, float|string|null> $cells null = missing
     */
    public static function changed(Table $record, array $cells): Table
    {
        foreach ($cells as $column => $value) {
            $record = $record->with($column, self::filled($record, $column, [$value]));
        }

        return $record;
    }

    /** Local effects of a number over the records seen, where columns go together; null for other kinds. */
    public function accumulated(string $column, ?int $class): ?Accumulated
    {
        return $this->basis->seen->column($column) instanceof NumberColumn
            ? Accumulated::of($this->answers($class), $this->basis->seen, $column)
            : null;
    }

    /**
     * Unlike answers that reach it, cheapest first; the nearest where none does; how many were tried.
     *
     * @param list<Free> $free
     * @param ?Follows   $follows columns that change with others by a formula
     *
     * @return array{found: list<\Dokimos\Core\Explain\Reached>, nearest: ?\Dokimos\Core\Explain\Reached, tried: int}
     */
    public function reach(Table $record, array $free, Want $want, float $likely, ?Follows $follows = null): array
    {
        $answers = fn (Table $table): Answers => $this->model->answers($table);

        return (new Reach($answers, $record, $this->basis->seen, $free, $this->basis->likeness, $follows))->of($want, $likely);
    }

    /**
     * A sum of at most five terms that answers as the model does near the record.
     *
     * @return array{terms: array<string, float>, fit: float} contributions by column, and how much of the variance it follows
     */
    public function local(Table $record, ?int $class): array
    {
        $random = Random::stream(self::SEED, 'local');
        $both = Stacked::of($this->basis->background, $record);
        $own = $this->basis->background->rows;
        $names = array_values(array_filter(
            $record->names(),
            static fn (string $n): bool => !$record->column($n) instanceof TextColumn && Kind::Text !== $record->column($n)->kind(),
        ));
        if ([] === $names) {
            return ['terms' => [], 'fit' => 0.0];
        }
        $columns = [];
        $from = array_map(static fn (): int => $random->getInt(0, max(0, $own - 1)), range(1, self::LOCAL));
        foreach ($record->names() as $name) {
            $keeps = \in_array($name, $names, true) ? 60 : 100;
            $columns[$name] = $both->column($name)->take(array_map(
                static fn (int $i): int => $random->getInt(1, 100) <= $keeps ? $own : $i,
                $from,
            ));
        }
        $table = Table::of($columns, self::LOCAL);
        $answers = ($this->answers($class))($table);
        $scales = $cells = $rows = [];
        foreach ($names as $name) {
            $column = $this->basis->background->column($name);
            if ($column instanceof NumberColumn) {
                $known = array_filter($column->values, is_finite(...));
                $mean = array_sum($known) / max(1, \count($known));
                $scales[] = [
                    $mean,
                    sqrt(array_sum(array_map(static fn (float $v): float => ($v - $mean) ** 2, $known)) / max(1, \count($known) - 1)),
                ];
            } else {
                $scales[] = null;
            }
            $cells[] = $record->column($name)->text(0);
        }
        $known = [];
        foreach ($answers as $row => $answer) {
            if (is_finite($answer)) {
                $rows[] = array_map(static fn (string $n): ?string => $table->column($n)->text($row), $names);
                $known[] = $answer;
            }
        }
        if (\count($known) < 30) {
            return ['terms' => [], 'fit' => 0.0];
        }
        $local = LocalSurrogate::of($cells, $rows, $scales, $known);
        $chosen = array_map(static fn (array $s): int => $s['added'], $local->forward(5));
        $fit = $local->fit($chosen, 0.1);
        $terms = [];
        foreach ($fit['contributions'] as $j => $value) {
            $terms[$names[$j]] = $value;
        }
        uasort($terms, static fn (float $a, float $b): int => abs($b) <=> abs($a));

        return ['terms' => $terms, 'fit' => $fit['weighted_r_squared']];
    }
}
