<?php

declare(strict_types=1);

namespace Dokimos\Core\Guide;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;

/**
 * What might be made of the columns: words of texts, parts of dates, and pairs of columns in which what a model left over goes together.
 * Definition: docs/methods/guided-search.md.
 */
final class Ideas
{
    private const LEVELS = 12;
    /** From this share of missing cells on another way to fill them is thought of. */
    private const LACKING = 0.05;
    /** Pairs of values with more than so many levels together are too thin to learn from. */
    private const MOST_PAIRS = 80;

    /**
     * What is made of single columns, before any model has spoken.
     *
     * @param list<string> $names columns that may serve, or be made into some that may
     * @param list<int>    $rows  that choices are made on
     *
     * @return list<Idea>
     */
    public static function ofSingles(Table $table, array $names, array $rows): array
    {
        $ideas = [];
        foreach ($names as $name) {
            $column = $table->column($name);
            if ($column instanceof TextColumn || Kind::Text === $column->kind()) {
                $ideas[] = new Idea(
                    $name.': words',
                    'the words of '.$name,
                    [['step' => 'text_terms', 'column' => $name, 'most' => 100, 'least' => 0.004, 'pairs' => false]],
                    [$name],
                    wide: true,
                );
            } elseif ($column instanceof DateColumn) {
                $ideas[] = new Idea(
                    $name.': parts',
                    'month and weekday of '.$name,
                    [['step' => 'date_parts', 'column' => $name, 'parts' => ['month', 'weekday'], 'keep' => true]],
                    [$name],
                );
            } elseif ($column instanceof NumberColumn && self::lacks($column, $rows)) {
                $ideas[] = new Idea(
                    $name.' filled by a model',
                    'missing cells of '.$name.' filled by what the other columns say of them',
                    [['step' => 'fill_missing', 'columns' => [$name], 'method' => 'by model', 'mark' => true]],
                    [$name],
                    true,
                );
            } elseif ($column instanceof CodedColumn && Kind::Category === $column->kind() && \count($column->levels) > 3 * self::LEVELS) {
                $ideas[] = new Idea(
                    $name.': rare together',
                    'rare values of '.$name.' taken together',
                    [['step' => 'group_rare', 'columns' => [$name], 'share' => 0.01]],
                    [$name],
                );
            }
        }

        return $ideas;
    }

    /** @param list<int> $rows */
    private static function lacks(NumberColumn $column, array $rows): bool
    {
        $missing = \count(array_filter($rows, static fn (int $r): bool => is_nan($column->values[$r])));

        return $missing >= self::LACKING * \count($rows) && $missing < \count($rows);
    }

    /**
     * Pairs of columns, strongest first, by what is left over once each column by itself is taken out of it.
     *
     * @param Table             $table    prepared
     * @param list<string>      $names    columns that may serve
     * @param list<int>         $rows     that the residuals are of
     * @param list<list<float>> $residual of each of these rows, one list for each class looked at
     * @param list<string>      $made     names of ideas weighed before, which are not thought of again
     *
     * @return list<Idea>
     */
    public static function ofPairs(Table $table, array $names, array $rows, array $residual, array $made, int $most): array
    {
        $codes = [];
        foreach ($names as $name) {
            $own = Cells::of($table->column($name), $rows);
            if (null !== $own && $own['width'] > 1) {
                $codes[$name] = $own;
            }
        }
        $found = [];
        $names = array_keys($codes);
        foreach ($names as $i => $one) {
            foreach (\array_slice($names, $i + 1) as $other) {
                $z = Cells::most($residual, static fn (array $r): float => Cells::together($codes[$one], $codes[$other], $r));
                $found[] = [$z, (string) $one, (string) $other];
            }
        }
        usort($found, static fn (array $a, array $b): int => $b[0] <=> $a[0] ?: strcmp($a[1].' '.$a[2], $b[1].' '.$b[2]));
        $ideas = [];
        foreach ($found as [$z, $one, $other]) {
            if ($z < 2.0 || \count($ideas) >= $most) {
                break;
            }
            $idea = self::ofPair($table, $one, $other, $rows, $residual, $codes);
            if (null !== $idea && !\in_array($idea->name, $made, true) && !$table->has($idea->name)) {
                $ideas[] = $idea;
            }
        }

        return $ideas;
    }

    /**
     * @param list<int>                                                                                       $rows
     * @param list<list<float>>                                                                               $residual
     * @param array<array-key, array{codes: list<int>, width: int, edges: list<float>, levels: list<string>}> $codes
     */
    private static function ofPair(Table $table, string $one, string $other, array $rows, array $residual, array $codes): ?Idea
    {
        $numbers = array_values(array_filter([$one, $other], static fn (string $n): bool => $table->column($n) instanceof NumberColumn));
        if ([] === $numbers) {
            if ($codes[$one]['width'] * $codes[$other]['width'] > self::MOST_PAIRS * 2) {
                return null;
            }

            return new Idea(
                $one.'_and_'.$other,
                $one.' and '.$other.' together',
                [['step' => 'interact', 'column' => $one, 'how' => 'pairs of values', 'other' => $other]],
                [$one, $other],
            );
        }
        if (1 === \count($numbers)) {
            $number = $numbers[0];

            return self::above($table, $number, $number === $one ? $other : $one, $residual, $codes);
        }

        return self::ofNumbers($table, $one, $other, $rows, $residual, $codes);
    }

    /**
     * A category where a number is above the bound at which both go together most.
     *
     * @param list<list<float>>                                                                               $residual
     * @param array<array-key, array{codes: list<int>, width: int, edges: list<float>, levels: list<string>}> $codes
     */
    private static function above(Table $table, string $number, string $category, array $residual, array $codes): ?Idea
    {
        $best = [-\INF, 0.0];
        foreach ($codes[$number]['edges'] as $b => $edge) {
            $two = [
                'codes' => array_map(
                    static fn (int $c): int => $c > $b && $c <= \count($codes[$number]['edges']) ? 1 : 0,
                    $codes[$number]['codes'],
                ),
                'width' => 2,
                'edges' => [],
                'levels' => [],
            ];
            $z = Cells::most($residual, static fn (array $r): float => Cells::together($two, $codes[$category], $r));
            if ($z > $best[0]) {
                $best = [$z, $edge];
            }
        }
        $bound = (float) \sprintf('%.6g', $best[1]);
        $formula = \sprintf('col("%s") > %s ? as_text(col("%s")) : "up to %s"', $number, self::said($bound), $category, self::said($bound));
        $name = $category.'_over_'.str_replace(['.', '-'], ['_', 'minus'], self::said($bound)).'_'.$number;

        return str_contains($number.$category, '"') ? null : new Idea(
            $name,
            \sprintf('%s where %s is over %s', $category, $number, self::said($bound)),
            [['step' => 'formula', 'name' => $name, 'formula' => $formula]],
            [$number, $category],
        );
    }

    /**
     * Of two numbers the way to put them together that what is left over follows most.
     *
     * @param list<int>                                                                                       $rows
     * @param list<list<float>>                                                                               $residual
     * @param array<array-key, array{codes: list<int>, width: int, edges: list<float>, levels: list<string>}> $codes
     */
    private static function ofNumbers(Table $table, string $one, string $other, array $rows, array $residual, array $codes): Idea
    {
        [$a, $b] = [$table->number($one), $table->number($other)];
        $ways = [
            'ratio' => [static fn (float $x, float $y): float => 0.0 === $y ? \NAN : $x / $y, $one, $other],
            'the other ratio' => [static fn (float $x, float $y): float => 0.0 === $x ? \NAN : $y / $x, $other, $one],
            'product' => [static fn (float $x, float $y): float => $x * $y, $one, $other],
            'difference' => [static fn (float $x, float $y): float => $x - $y, $one, $other],
            'sum' => [static fn (float $x, float $y): float => $x + $y, $one, $other],
        ];
        $best = [-\INF, 'product', $one, $other];
        foreach ($ways as $how => [$make, $first, $second]) {
            $values = array_map(static fn (int $r): float => $make($a->values[$r], $b->values[$r]), $rows);
            $z = Cells::most($residual, static fn (array $r): float => Cells::follows($values, $r, $codes[$one], $codes[$other]));
            if ($z > $best[0]) {
                $best = [$z, 'the other ratio' === $how ? 'ratio' : $how, $first, $second];
            }
        }
        [, $how, $first, $second] = $best;
        $name = $first.['ratio' => '_per_', 'product' => '_times_', 'difference' => '_minus_', 'sum' => '_plus_'][$how].$second;

        return new Idea(
            $name,
            \sprintf('%s of %s and %s', $how, $first, $second),
            [['step' => 'interact', 'column' => $first, 'how' => $how, 'other' => $second]],
            [$one, $other],
        );
    }

    private static function said(float $value): string
    {
        return floor($value) === $value && abs($value) < 1e15 ? (string) (int) $value : (string) $value;
    }
}
