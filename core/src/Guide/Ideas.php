<?php

declare(strict_types=1);

namespace Dokimos\Core\Guide;

use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
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
    private const BINS = 6;
    private const LEVELS = 12;
    /** Pairs of values with more than so many levels together are too thin to learn from. */
    private const MOST_PAIRS = 80;
    private const PARTS = 10;

    /**
     * What is made of single columns, before any model has spoken.
     *
     * @param list<string> $names columns that may serve, or be made into some that may
     *
     * @return list<Idea>
     */
    public static function ofSingles(Table $table, array $names): array
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
                );
            } elseif ($column instanceof DateColumn) {
                $ideas[] = new Idea(
                    $name.': parts',
                    'month and weekday of '.$name,
                    [['step' => 'date_parts', 'column' => $name, 'parts' => ['month', 'weekday'], 'keep' => true]],
                    [$name],
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
            $own = self::codes($table->column($name), $rows);
            if (null !== $own && $own['width'] > 1) {
                $codes[$name] = $own;
            }
        }
        $found = [];
        $names = array_keys($codes);
        foreach ($names as $i => $one) {
            foreach (\array_slice($names, $i + 1) as $other) {
                $z = self::most($residual, static fn (array $r): float => self::together($codes[$one], $codes[$other], $r));
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
     * @param list<int> $rows
     *
     * @return array{codes: list<int>, width: int, edges: list<float>, levels: list<string>}|null
     */
    private static function codes(Column $column, array $rows): ?array
    {
        if ($column instanceof NumberColumn) {
            $values = array_map(static fn (int $r): float => $column->values[$r], $rows);
            $known = array_values(array_filter($values, static fn (float $v): bool => !is_nan($v)));
            if (\count($known) < 20) {
                return null;
            }
            $edges = QuantileBins::spoken($known, self::BINS);
            $codes = array_map(static fn (float $v): int => is_nan($v) ? \count($edges) + 1 : self::bin($v, $edges), $values);

            return ['codes' => $codes, 'width' => \count($edges) + 2, 'edges' => $edges, 'levels' => []];
        }
        if (!$column instanceof CodedColumn || Kind::Text === $column->kind() || Kind::Identifier === $column->kind()) {
            return null;
        }
        $counts = [];
        foreach ($rows as $r) {
            $counts[$column->codes[$r]] = ($counts[$column->codes[$r]] ?? 0) + 1;
        }
        arsort($counts);
        $place = array_flip(\array_slice(array_keys($counts), 0, self::LEVELS));
        $rest = \count($place);

        return [
            'codes' => array_map(static fn (int $r): int => $place[$column->codes[$r]] ?? $rest, $rows),
            'width' => $rest + 1,
            'edges' => [],
            'levels' => array_values($column->levels),
        ];
    }

    /** @param list<float> $edges */
    private static function bin(float $v, array $edges): int
    {
        $b = 0;
        foreach ($edges as $edge) {
            if ($v <= $edge) {
                break;
            }
            ++$b;
        }

        return $b;
    }

    /**
     * By how many standard errors the residual's spread over the cells exceeds what rows and columns explain.
     *
     * @param array{codes: list<int>, width: int, edges: list<float>, levels: list<string>} $a
     * @param array{codes: list<int>, width: int, edges: list<float>, levels: list<string>} $b
     * @param list<float>                                                                   $residual
     */
    private static function together(array $a, array $b, array $residual): float
    {
        [$sums, $counts] = [[], []];
        $squares = 0.0;
        $width = $b['width'];
        foreach ($residual as $i => $r) {
            $cell = $a['codes'][$i] * $width + $b['codes'][$i];
            $sums[$cell] = ($sums[$cell] ?? 0.0) + $r;
            $counts[$cell] = ($counts[$cell] ?? 0) + 1;
            $squares += $r * $r;
        }
        $n = max(1, \count($residual));
        $mean = array_sum($residual) / $n;
        $variance = max(1e-12, $squares / $n - $mean * $mean);
        [$ra, $na, $rb, $nb] = [[], [], [], []];
        foreach ($sums as $cell => $sum) {
            [$i, $j] = [intdiv($cell, $width), $cell % $width];
            $ra[$i] = ($ra[$i] ?? 0.0) + $sum;
            $na[$i] = ($na[$i] ?? 0) + $counts[$cell];
            $rb[$j] = ($rb[$j] ?? 0.0) + $sum;
            $nb[$j] = ($nb[$j] ?? 0) + $counts[$cell];
        }
        $statistic = 0.0;
        foreach ($sums as $cell => $sum) {
            [$i, $j] = [intdiv($cell, $width), $cell % $width];
            $expected = $ra[$i] / $na[$i] + $rb[$j] / $nb[$j] - $mean;
            $statistic += $counts[$cell] * ($sum / $counts[$cell] - $expected) ** 2 / $variance;
        }
        $freedom = max(1, \count($sums) - \count($na) - \count($nb) + 1);

        return ($statistic - $freedom) / sqrt(2.0 * $freedom);
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
            $z = self::most($residual, static fn (array $r): float => self::together($two, $codes[$category], $r));
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
            $z = self::most($residual, static fn (array $r): float => self::alone($values, $r, $codes[$one], $codes[$other]));
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

    /**
     * How far what is left over follows a made number, once both columns by themselves are taken out of it.
     *
     * @param list<float>                                                                   $values
     * @param list<float>                                                                   $residual
     * @param array{codes: list<int>, width: int, edges: list<float>, levels: list<string>} $a
     * @param array{codes: list<int>, width: int, edges: list<float>, levels: list<string>} $b
     */
    private static function alone(array $values, array $residual, array $a, array $b): float
    {
        foreach ([$a, $b] as $own) {
            $sum = $count = array_fill(0, $own['width'], 0.0);
            foreach ($residual as $i => $r) {
                $sum[$own['codes'][$i]] += $r;
                ++$count[$own['codes'][$i]];
            }
            foreach ($residual as $i => $r) {
                $residual[$i] = $r - $sum[$own['codes'][$i]] / $count[$own['codes'][$i]];
            }
        }
        $known = array_values(array_filter($values, is_finite(...)));
        if (\count($known) < 20) {
            return -\INF;
        }
        $edges = QuantileBins::edges($known, self::PARTS);
        $sum = $count = array_fill(0, \count($edges) + 1, 0.0);
        $squares = 0.0;
        foreach ($residual as $i => $r) {
            $squares += $r * $r;
            if (is_finite($values[$i])) {
                $bin = self::bin($values[$i], $edges);
                $sum[$bin] += $r;
                ++$count[$bin];
            }
        }
        $variance = max(1e-12, $squares / max(1, \count($residual)));
        $statistic = 0.0;
        foreach ($sum as $k => $s) {
            $statistic += $count[$k] > 0 ? $s * $s / $count[$k] / $variance : 0.0;
        }

        return ($statistic - \count($sum) + 1) / sqrt(2.0 * max(1, \count($sum) - 1));
    }

    /**
     * @param list<list<float>>            $residual
     * @param \Closure(list<float>): float $of
     */
    private static function most(array $residual, \Closure $of): float
    {
        $most = -\INF;
        foreach ($residual as $one) {
            $most = max($most, $of($one));
        }

        return $most;
    }

    private static function said(float $value): string
    {
        return floor($value) === $value && abs($value) < 1e15 ? (string) (int) $value : (string) $value;
    }
}
