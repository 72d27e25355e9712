<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Selection;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Design\Standardized;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Math\Cholesky;
use Dokimos\Core\Math\Curvature;
use Dokimos\Core\Task\Task;

/**
 * The most promising subsets of columns of each size, before any is fitted: of a number by the residual sum, which is exact; of classes by
 * the score statistic of the model without columns, Σ over classes of the explained squares of its mark over its share. Terms have their
 * price, or columns of many would always come first. Definition: docs/methods/selection.md.
 */
final class Screen
{
    public const MOST = 20;

    /**
     * @param list<int> $rows  complete in all columns
     * @param int       $keep  subsets of each size
     * @param float     $price of a term in units of −2 ln L: 2 for AIC, ln n for BIC
     *
     * @return list<list<list<string>>> by size from none to all, best first
     *
     * @throws CannotFit All subsets are compared of up to … columns; these are …. Choose step by step instead, or set columns as…
     */
    public static function of(Coding $coding, Task $task, array $rows, int $keep, float $price): array
    {
        if (\count($coding->columns) > self::MOST) {
            throw new CannotFit(\sprintf('All subsets are compared of up to %d columns; these are %d. Choose step by step instead, or set columns aside.', self::MOST, \count($coding->columns)));
        }
        $weights = array_map(static fn (array $part): array => array_map(static fn (int $r): float => $task->weights[$r] ?? 1.0, $part), array_chunk($rows, Matrix::BLOCK));
        $sum = array_sum(array_map(array_sum(...), $weights));
        [$x] = Standardized::of($coding->matrix($task->table, $rows, true), $weights, $sum);
        [$products, $slopes, $total] = self::products($x, $weights, self::responses($task, $rows, $weights, $sum));
        $dependent = array_flip(Cholesky::dependent($products));
        $groups = [];
        foreach ($coding->terms as $t => $term) {
            if (!isset($dependent[$t])) {
                $groups[$term->column][] = $t - \count(array_filter(array_keys($dependent), static fn (int $d): bool => $d < $t));
            }
        }
        $products = array_map(static fn (array $row): array => self::without($row, $dependent), array_values(array_diff_key($products, $dependent)));
        $slopes = array_map(static fn (array $row): array => self::without($row, $dependent), $slopes);
        if (null === $task->classes) {
            // With the variance of the full model: Mallows' Cp, times that.
            $price *= self::variance($products, $slopes[0] ?? [], $total, $sum);
        }
        // What only repeats columns before it is no candidate; it has no terms left to enter with.
        $names = array_map(strval(...), array_keys($groups));

        return array_map(static fn (array $size): array => array_map(static fn (array $one): array => array_map(static fn (int $g): string => $names[$g], $one['groups']), $size), Subsets::ranked($products, $slopes, $total, array_values($groups), $keep, $price));
    }

    /**
     * @param list<list<float>> $products
     * @param list<float>       $slopes
     */
    private static function variance(array $products, array $slopes, float $total, float $sum): float
    {
        $explained = 0.0;
        foreach ([] === $products ? [] : Cholesky::of($products)->solve($slopes) as $i => $b) {
            $explained += $b * $slopes[$i];
        }

        return max(0.0, $total - $explained) / max(1.0, $sum - \count($products) - 1);
    }

    /**
     * @param list<float>     $list
     * @param array<int, int> $places by place
     *
     * @return list<float>
     */
    private static function without(array $list, array $places): array
    {
        return array_values(array_diff_key($list, $places));
    }

    /**
     * The outcome, centered; of classes the mark of each, over the root of its share.
     *
     * @param list<int>         $rows
     * @param list<list<float>> $weights
     *
     * @return list<list<list<float>>> by block, response and row
     */
    private static function responses(Task $task, array $rows, array $weights, float $sum): array
    {
        $classes = null === $task->classes ? [null] : array_keys($task->classes);
        $blocks = array_chunk($rows, Matrix::BLOCK);
        $out = array_fill(0, \count($blocks), []);
        foreach ($classes as $class) {
            $value = static fn (int $row): float => null === $class ? $task->outcome[$row] : (float) ((int) $task->outcome[$row] === $class);
            $mean = 0.0;
            foreach ($blocks as $b => $part) {
                foreach ($part as $i => $row) {
                    $mean += $weights[$b][$i] * $value($row) / $sum;
                }
            }
            if (null !== $class && $mean <= 0.0) {
                continue;
            }
            $scale = null === $class ? 1.0 : 1.0 / sqrt($mean);
            foreach ($blocks as $b => $part) {
                $out[$b][] = array_map(static fn (int $row): float => ($value($row) - $mean) * $scale, $part);
            }
        }

        return $out;
    }

    /**
     * @param Matrix                  $x         standardized, the constant first
     * @param list<list<float>>       $weights
     * @param list<list<list<float>>> $responses by block, response and row
     *
     * @return array{list<list<float>>, list<list<float>>, float} X'WX without the constant, X'Wy of each response, Σ y'Wy
     */
    public static function products(Matrix $x, array $weights, array $responses): array
    {
        $terms = \count($x->names) - 1;
        $many = \count($responses[0] ?? []);
        $all = array_fill(0, $terms + $many, array_fill(0, $terms + $many, 0.0));
        foreach ($x->blocks() as $b => $columns) {
            $own = [...\array_slice($columns, 1), ...$responses[$b]];
            $weighted = array_map(static fn (array $c): array => array_map(static fn (float $v, float $w): float => $v * $w, $c, $weights[$b]), $own);
            foreach (Curvature::triangle($weighted, $own) as $i => $row) {
                foreach ($row as $j => $v) {
                    $all[$i][$j] += $v;
                    $all[$j][$i] = $all[$i][$j];
                }
            }
        }
        $total = 0.0;
        for ($k = $terms; $k < $terms + $many; ++$k) {
            $total += $all[$k][$k];
        }
        $part = static fn (array $row): array => \array_slice($row, 0, $terms);

        /** @var array{list<list<float>>, list<list<float>>, float} */
        return [array_map($part, \array_slice($all, 0, $terms)), array_map($part, \array_slice($all, $terms)), $total];
    }
}
