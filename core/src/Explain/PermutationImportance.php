<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Random;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;

/**
 * What a figure loses when one column is shuffled among the rows, so that it says nothing of them any more (Breiman 2001; Fisher, Rudin
 * and Dominici 2019). Definition: docs/methods/importance.md.
 */
final class PermutationImportance
{
    /**
     * @param \Closure(Table): Answers  $answers
     * @param \Closure(Answers): ?float $figure  of the answers for all rows of the table
     * @param list<string>              $columns
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
            $random = Random::stream($seed, 'shuffled '.$name);
            for ($repeat = 0; $repeat < $repeats; ++$repeat) {
                $shuffled = $figure($answers($table->with($name, $column->take($random->shuffleArray(range(0, $table->rows - 1))))));
                if (null !== $shuffled) {
                    $out[$name][] = $shuffled - $base;
                }
            }
        }

        return $out;
    }
}
