<?php

declare(strict_types=1);

namespace Dokimos\Core\Guide;

use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;

/** Lays what a model leaves over into the cells of columns, and tells how far it follows them: (χ² − df) / √(2 df). */
final class Cells
{
    private const BINS = 6;
    private const LEVELS = 12;
    private const PARTS = 10;

    /**
     * The cell of each row: a range of equal frequency of a number, one of the most frequent values of a category.
     *
     * @param list<int> $rows
     *
     * @return array{codes: list<int>, width: int, edges: list<float>, levels: list<string>}|null
     */
    public static function of(Column $column, array $rows): ?array
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
    public static function together(array $a, array $b, array $residual): float
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
     * How far what is left over follows one column by itself.
     *
     * @param array{codes: list<int>, width: int, edges: list<float>, levels: list<string>} $cells
     * @param list<float>                                                                   $residual
     */
    public static function alone(array $cells, array $residual): float
    {
        $sum = $count = array_fill(0, max(1, $cells['width']), 0.0);
        $squares = $all = 0.0;
        foreach ($residual as $i => $r) {
            $sum[$cells['codes'][$i]] += $r;
            ++$count[$cells['codes'][$i]];
            $all += $r;
            $squares += $r * $r;
        }
        $n = max(1, \count($residual));
        $mean = $all / $n;
        $variance = max(1e-12, $squares / $n - $mean * $mean);
        $statistic = 0.0;
        foreach ($sum as $k => $s) {
            $statistic += $count[$k] > 0 ? $count[$k] * ($s / $count[$k] - $mean) ** 2 / $variance : 0.0;
        }
        $freedom = max(1, \count(array_filter($count)) - 1);

        return ($statistic - $freedom) / sqrt(2.0 * $freedom);
    }

    /**
     * How far what is left over follows a made number, once both columns by themselves are taken out of it.
     *
     * @param list<float>                                                                   $values
     * @param list<float>                                                                   $residual
     * @param array{codes: list<int>, width: int, edges: list<float>, levels: list<string>} $a
     * @param array{codes: list<int>, width: int, edges: list<float>, levels: list<string>} $b
     */
    public static function follows(array $values, array $residual, array $a, array $b): float
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
     * The most of it, over the classes looked at.
     *
     * @param list<list<float>>            $residual
     * @param \Closure(list<float>): float $of
     */
    public static function most(array $residual, \Closure $of): float
    {
        $most = -\INF;
        foreach ($residual as $one) {
            $most = max($most, $of($one));
        }

        return $most;
    }
}
