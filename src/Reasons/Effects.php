<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Http\Problem;
use App\Trial\Trial;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Decide\WordEffects;
use Dokimos\Core\Explain\Accumulated;
use Dokimos\Core\Explain\Together;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** How answers bend with a column, what two do together, and what acts together. */
final readonly class Effects
{
    private const SINGLES = 34;
    private const NAMED = 5;
    /** Values of each column on a map. */
    private const SIDE = 9;
    private const ON_MAP = 60;
    /** Records, and columns, that pairs are looked for among. */
    private const PAIRED = 40;
    private const AMONG = 6;

    public function __construct(private Bases $bases, private Subjects $subjects)
    {
    }

    /** @param list<int> $named records whose own curve is wanted */
    public function of(Trial $trial, string $column, ?string $class, array $named): ColumnEffectView
    {
        $reasoning = $this->bases->reasoning($trial);
        $this->known($reasoning, $column);
        $place = self::place($reasoning, $class);
        $grid = $reasoning->grid($column);
        if ([] === $grid) {
            throw Problem::invalid(
                \sprintf('%s is a text: the words made of it stand in the model, and it is explained as a whole.', $column),
                'column',
            );
        }
        $background = $reasoning->basis->background;
        $curves = $reasoning->curves($background, $column, $grid, $place);
        [$mean, $low, $high] = self::means($curves);
        $numbers = array_values(array_filter($grid, is_float(...)));
        $days = $background->column($column) instanceof DateColumn;
        $levels = [] === $numbers ? array_map(strval(...), $grid) : [];
        $stretch = [] === $numbers ? null : Words::stretch($numbers, $mean);
        $accumulated = $reasoning->accumulated($column, $place);
        $answers = ($reasoning->answers($place))($background);
        $counts = self::counts($reasoning->basis->seen, $column, $numbers, $levels);
        $singles = [];
        foreach (\array_slice($curves, 0, self::SINGLES, true) as $i => $ys) {
            $singles[] = new SingleView(0, $background->column($column)->text($i), self::or($answers[$i]), array_map(self::or(...), $ys));
        }

        return new ColumnEffectView(
            $column,
            [] === $numbers ? 'category' : ($days ? 'date' : 'number'),
            $numbers,
            $levels,
            array_map(self::or(...), $mean),
            array_map(self::or(...), $low),
            array_map(self::or(...), $high),
            $singles,
            $this->named($trial, $reasoning, $column, $grid, $place, $named),
            $accumulated->edges ?? [],
            null === $accumulated ? [] : self::laid($accumulated, $mean, $counts),
            $counts,
            $stretch[0] ?? null,
            $stretch[1] ?? null,
            $stretch[2] ?? null,
            self::says($reasoning, $column, $numbers, $levels, $mean, $stretch, $days),
            null === $accumulated ? null : self::warns($column, $numbers, $mean, $accumulated),
        );
    }

    /** What the words of a text do. */
    public function words(Trial $trial, string $column, ?string $class): WordsView
    {
        $reasoning = $this->bases->reasoning($trial);
        $this->known($reasoning, $column);

        $background = $reasoning->basis->background;

        return new WordsView($column, WordEffects::of($reasoning->model, $background, $column, self::place($reasoning, $class)));
    }

    /** Mean answers as two columns change. */
    public function map(Trial $trial, string $one, string $other, ?string $class): TwoEffectsView
    {
        $reasoning = $this->bases->reasoning($trial);
        array_map(fn (string $c) => $this->known($reasoning, $c), [$one, $other]);
        if ($one === $other) {
            throw Problem::invalid('A map takes two different columns.', 'y');
        }
        $place = self::place($reasoning, $class);
        $thin = static fn (array $grid): array => \count($grid) <= self::SIDE ? $grid : array_map(
            static fn (int $k): float|string => $grid[(int) round($k * (\count($grid) - 1) / (self::SIDE - 1))],
            range(0, self::SIDE - 1),
        );
        [$across, $up] = [$thin($reasoning->grid($one)), $thin($reasoning->grid($other))];
        if ([] === $across || [] === $up) {
            throw Problem::invalid('A text cannot be laid on a map.', 'x');
        }
        $rows = $reasoning->basis->background->take(range(0, min(self::ON_MAP, $reasoning->basis->background->rows) - 1));
        $mean = [];
        foreach ($across as $value) {
            $own = self::fixed($rows, $one, $value);
            $mean[] = array_map(self::or(...), self::means($reasoning->curves($own, $other, array_values($up), $place))[0]);
        }
        $text = static function (Table $rows, string $column, array $values): array {
            $days = $rows->column($column) instanceof DateColumn;

            return array_values(array_map(static fn (float|string $v): string => \is_float($v) ? Words::at($v, $days) : $v, $values));
        };

        return new TwoEffectsView($one, $other, $text($rows, $one, $across), $text($rows, $other, $up), $mean);
    }

    /**
     * @param list<string> $columns what matters most first
     *
     * @return list<PairView> strongest first
     */
    public function pairs(Trial $trial, array $columns, ?string $class): array
    {
        $reasoning = $this->bases->reasoning($trial);
        [$rows, $columns] = self::paired($reasoning, $columns);
        $together = new Together($reasoning->answers(self::place($reasoning, $class)), $rows);
        $out = [];
        foreach ($columns as $i => $one) {
            foreach (\array_slice($columns, $i + 1) as $other) {
                $own = $together->pair($one, $other);
                $out[] = new PairView($one, $other, min(1.0, $own['h']), $own['unscaled']);
            }
        }
        usort($out, static fn (PairView $a, PairView $b): int => $b->beyond <=> $a->beyond);

        return $out;
    }

    /**
     * Where pairs are measured, and of which columns.
     *
     * @param list<string> $columns what matters most first
     *
     * @return array{Table, list<string>}
     */
    public static function paired(Reasoning $reasoning, array $columns): array
    {
        $background = $reasoning->basis->background;
        $rows = $background->take(range(0, min(self::PAIRED, $background->rows) - 1));

        return [$rows, array_values(array_filter(\array_slice($columns, 0, self::AMONG), static fn (string $c): bool => $rows->has($c)))];
    }

    private function known(Reasoning $reasoning, string $column): void
    {
        if (!$reasoning->basis->seen->has($column)) {
            throw Problem::invalid(\sprintf('This model does not ask for "%s".', $column), 'column');
        }
    }

    /** Of several classes the place of the one asked for, or the first. */
    public static function place(Reasoning $reasoning, ?string $class): ?int
    {
        if (Task::MORE !== $reasoning->model->task) {
            return null;
        }
        $place = null === $class ? 0 : array_search($class, $reasoning->model->classes(), true);

        return false === $place ? throw Problem::invalid(\sprintf('“%s” is none of the classes.', $class), 'class') : $place;
    }

    private static function fixed(Table $rows, string $column, float|string $value): Table
    {
        $one = Reasoning::changed($rows->take([0]), [$column => $value]);

        return $rows->with($column, $one->column($column)->take(array_fill(0, $rows->rows, 0)));
    }

    private static function or(float $value): ?float
    {
        return is_nan($value) ? null : $value;
    }

    /**
     * Means of curves, with the interval of the mean for how far curves differ in shape, not in height.
     *
     * @param list<list<float>> $curves
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    public static function means(array $curves): array
    {
        $curves = array_values(array_filter($curves, static fn (array $c): bool => [] === array_filter($c, is_nan(...))));
        $points = \count($curves[0] ?? []);
        $n = \count($curves);
        $own = array_map(static fn (array $c): float => array_sum($c) / max(1, \count($c)), $curves);
        $mean = $low = $high = [];
        for ($k = 0; $k < $points; ++$k) {
            $at = array_map(static fn (array $c): float => $c[$k], $curves);
            $shape = array_map(static fn (float $y, float $o): float => $y - $o, $at, $own);
            $mean[] = $m = array_sum($at) / $n;
            $middle = array_sum($shape) / $n;
            $half = $n < 2 ? 0.0 : Normal::Z95 * sqrt(array_sum(array_map(
                static fn (float $s): float => ($s - $middle) ** 2,
                $shape,
            )) / ($n - 1) / $n);
            $low[] = $m - $half;
            $high[] = $m + $half;
        }

        return [$mean, $low, $high];
    }

    /**
     * @param list<float|string> $grid
     * @param list<int>          $numbers
     *
     * @return list<SingleView>
     */
    private function named(Trial $trial, Reasoning $reasoning, string $column, array $grid, ?int $place, array $numbers): array
    {
        $out = [];
        foreach (\array_slice(array_values(array_unique($numbers)), 0, self::NAMED) as $number) {
            $record = $this->subjects->ofTrial($trial, $number)->record;
            $out[] = new SingleView(
                $number,
                $record->column($column)->text(0),
                self::or(($reasoning->answers($place))($record)[0]),
                array_map(self::or(...), $reasoning->curves($record, $column, $grid, $place)[0]),
            );
        }

        return $out;
    }

    /**
     * @param list<float> $mean   of the partial dependence
     * @param list<int>   $counts records at each of its values
     *
     * @return list<float> at its height over the records
     */
    private static function laid(Accumulated $accumulated, array $mean, array $counts): array
    {
        $height = array_sum(array_map(static fn (float $m, int $n): float => $m * $n, $mean, $counts)) / max(1, array_sum($counts));

        return array_map(static fn (float $e): float => $height + $e, $accumulated->effect);
    }

    /**
     * @param list<float>  $numbers
     * @param list<string> $levels
     *
     * @return list<int>
     */
    private static function counts(Table $seen, string $column, array $numbers, array $levels): array
    {
        $of = $seen->column($column);
        $counts = array_fill(0, max(\count($numbers), \count($levels)), 0);
        $places = array_flip($levels);
        for ($row = 0; $row < $seen->rows; ++$row) {
            $text = $of->text($row);
            if (null === $text) {
                continue;
            }
            if ([] !== $levels) {
                if (isset($places[$text])) {
                    ++$counts[$places[$text]];
                }
                continue;
            }
            $value = $of instanceof DateColumn ? $of->seconds[$row] / DateColumn::DAY : (float) $text;
            $nearest = 0;
            foreach ($numbers as $k => $x) {
                $nearest = abs($x - $value) < abs($numbers[$nearest] - $value) ? $k : $nearest;
            }
            ++$counts[$nearest];
        }

        return array_values($counts);
    }

    /**
     * @param list<float>                     $numbers
     * @param list<string>                    $levels
     * @param list<float>                     $mean
     * @param array{float, float, float}|null $stretch
     */
    private static function says(
        Reasoning $reasoning,
        string $column,
        array $numbers,
        array $levels,
        array $mean,
        ?array $stretch,
        bool $days,
    ): string {
        $model = $reasoning->model;
        $size = static fn (float $v): string => Task::NUMBER === $model->task ? \sprintf('%.3g', $v) : \sprintf('%.1f points', 100 * $v);
        $what = match ($model->task) {
            Task::NUMBER => $model->target,
            Task::TWO => 'the chance of “'.$model->event.'”',
            default => 'its chance',
        };
        [$least, $most] = self::ends($mean);
        $range = $most - $least;
        if ($range < (Task::NUMBER === $model->task ? 1e-12 : 0.005)) {
            return \sprintf('On average %s hardly moves with %s.', $what, $column);
        }
        if ([] !== $levels) {
            $order = array_keys($mean);
            usort($order, static fn (int $a, int $b): int => $mean[$b] <=> $mean[$a]);

            return \sprintf(
                'All else as it is, %s lies %s higher for “%s” than for “%s”.',
                $what,
                $size($range),
                $levels[$order[0]],
                $levels[$order[\count($order) - 1]],
            );
        }
        if (null === $stretch) {
            $at = static fn (float $y): string => Words::at($numbers[(int) array_search($y, $mean, true)], $days);

            return \sprintf('%s is highest near %s and lowest near %s, %s apart.', ucfirst($what), $at($most), $at($least), $size($range));
        }

        return \sprintf(
            'Between %s and %s more of %s %s %s by %s; elsewhere it moves it by %s.',
            Words::at($stretch[0], $days),
            Words::at($stretch[1], $days),
            $column,
            $stretch[2] > 0 ? 'raises' : 'lowers',
            $what,
            $size(abs($stretch[2])),
            $size(max(0.0, $range - abs($stretch[2]))),
        );
    }

    /**
     * @param list<float> $xs
     * @param list<float> $mean
     */
    private static function warns(string $column, array $xs, array $mean, Accumulated $accumulated): ?string
    {
        if (\count($xs) < 2) {
            return null;
        }
        $apart = [];
        foreach ($accumulated->edges as $k => $edge) {
            $apart[] = self::between($xs, $mean, $edge) - $accumulated->effect[$k];
        }
        // Only shapes are compared: both are laid at the same height.
        [$low, $high] = self::ends($apart);
        $gap = $high - $low;
        [$low, $high] = self::ends($mean);
        $range = $high - $low;

        return $range <= 0.0 || $gap < 0.35 * $range ? null : \sprintf(
            'The two ways disagree: %s goes together with other columns, so that the mean curve asks for records that hardly occur. The accumulated one keeps to records that do.',
            $column,
        );
    }

    /**
     * @param list<float> $values
     *
     * @return array{float, float} the least and the most
     */
    private static function ends(array $values): array
    {
        return [] === $values ? [0.0, 0.0] : [min($values), max($values)];
    }

    /**
     * @param list<float> $xs
     * @param list<float> $ys
     */
    private static function between(array $xs, array $ys, float $x): float
    {
        $last = \count($xs) - 1;
        for ($k = 1; $k <= $last; ++$k) {
            if ($x <= $xs[$k] || $k === $last) {
                $part = $xs[$k] > $xs[$k - 1] ? ($x - $xs[$k - 1]) / ($xs[$k] - $xs[$k - 1]) : 0.0;

                return $ys[$k - 1] + max(0.0, min(1.0, $part)) * ($ys[$k] - $ys[$k - 1]);
            }
        }

        return $ys[0];
    }
}
