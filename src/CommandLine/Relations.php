<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Profile\Association;
use Dokimos\Core\Profile\Information;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** How every two columns of a table go together, as one document. */
final class Relations
{
    /**
     * @param list<string> $targets
     *
     * @return array<string, mixed>
     */
    public static function of(Table $table, array $targets): array
    {
        $numbers = $categories = $codes = $edges = [];
        foreach ($table->columns() as $name => $column) {
            $name = (string) $name;
            if ($column instanceof NumberColumn) {
                $numbers[$name] = $column->values;
                $edges[$name] = QuantileBins::edges($column->values);
                $codes[$name] = QuantileBins::codes($column->values, $edges[$name]);
            } elseif ($column instanceof CodedColumn) {
                $categories[$name] = $codes[$name] = $column->codes;
            }
        }
        $pearson = $spearman = [];
        foreach ($numbers as $a => $x) {
            foreach ($numbers as $b => $y) {
                $pearson[$a][$b] = Association::pearson($x, $y);
                $spearman[$a][$b] = Association::spearman($x, $y);
            }
        }
        $groups = $gains = [];
        foreach ($categories as $category => $c) {
            foreach ($numbers as $number => $x) {
                $groups[] = ['category' => $category, 'numeric' => $number] + Association::groups($c, $x);
            }
        }
        foreach ($targets as $target) {
            foreach ([...array_keys($numbers), ...array_keys($categories)] as $name) {
                if (!\in_array($name, $targets, true) && isset($categories[$target])) {
                    $gains[] = ['target' => $target, 'column' => $name] + (isset($numbers[$name]) ? Information::byCut($categories[$target], $numbers[$name]) : Information::byLevels(
                        $categories[$target],
                        $categories[$name],
                    ));
                }
            }
        }

        return [
            'pearson' => $pearson, 'spearman' => $spearman,
            'categorical_pairs' => self::pairs($categories, Association::categories(...)),
            'category_numeric' => $groups,
            'bin_edges' => $edges,
            'mutual_information' => self::pairs(
                [...array_intersect_key($codes, $numbers), ...array_intersect_key($codes, $categories)],
                Information::mutual(...),
            ),
            'target_gain' => $gains,
        ];
    }

    /**
     * @param array<string, list<int>>                             $columns
     * @param \Closure(list<int>, list<int>): array<string, mixed> $figures
     *
     * @return list<array<string, mixed>>
     */
    private static function pairs(array $columns, \Closure $figures): array
    {
        $out = [];
        $names = array_keys($columns);
        foreach ($names as $i => $a) {
            foreach (\array_slice($names, $i + 1) as $b) {
                $out[] = ['a' => $a, 'b' => $b] + $figures($columns[$a], $columns[$b]);
            }
        }

        return $out;
    }
}
