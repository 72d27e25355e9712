<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Table\Table;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * What a figure loses when one column is shuffled among the rows, so that it says nothing of them any more (Breiman 2001; Fisher, Rudin
 * and Dominici 2019). Definition: docs/methods/importance.md.
 */
final class PermutationImportance
{
    /**
     * @param \Closure(Table): list<float>  $answers
     * @param \Closure(list<float>): ?float $figure  of the answers for all rows of the table
     * @param list<string>                  $columns
     *
     * @return array<array-key, list<float>> per column, one difference per repeat: the figure with the column shuffled less the figure as it is; columns for which there is no figure are left out
     */
    public static function of(\Closure $answers, \Closure $figure, Table $table, array $columns, int $repeats, int $seed): array
    {
        $base = $figure($answers($table));
        if (null === $base || $table->rows < 2) {
            return [];
        }
        $out = [];
        foreach ($columns as $name) {
            $column = $table->column($name);
            // Each column has a stream of its own: which others are asked about changes nothing.
            $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', $seed.':shuffled '.$name, true)));
            for ($repeat = 0; $repeat < $repeats; ++$repeat) {
                $shuffled = $figure($answers($table->with($name, $column->take($random->shuffleArray(range(0, $table->rows - 1))))));
                if (null !== $shuffled) {
                    $out[$name][] = $shuffled - $base;
                }
            }
        }

        return $out;
    }

    /**
     * The expectation over all permutations of a mean loss: every row gets the value of every other once.
     *
     * @param \Closure(Table): list<float>                  $answers
     * @param \Closure(list<float>, list<int>): list<float> $losses  of answers for rows given by place
     *
     * @return array{base: float, importance: float, importance_without_self: float}
     */
    public static function expected(\Closure $answers, \Closure $losses, Table $table, string $column): array
    {
        $n = $table->rows;
        $places = $n > 0 ? range(0, $n - 1) : [];
        $base = array_sum($losses($answers($table), $places)) / max(1, $n);
        $all = $own = 0.0;
        for ($k = 0; $k < $n; ++$k) {
            $each = $losses($answers($table->with($column, $table->column($column)->take(array_fill(0, $n, $k)))), $places);
            $all += array_sum($each);
            $own += $each[$k];
        }

        return ['base' => $base, 'importance' => $all / max(1, $n * $n) - $base, 'importance_without_self' => $n > 1 ? ($all - $own) / ($n * ($n - 1)) - $base : 0.0];
    }
}
