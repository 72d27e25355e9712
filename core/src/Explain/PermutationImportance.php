<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Progress;
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
        return self::ofGroups(
            $answers,
            $figure,
            $table,
            array_map(static fn (string $c): array => [$c], array_combine($columns, $columns)),
            $repeats,
            $seed,
        );
    }

    /**
     * The same for columns that are shuffled together: each row of them stays as it is and goes to another record.
     *
     * @param \Closure(Table): Answers                 $answers
     * @param \Closure(Answers): ?float                $figure
     * @param array<array-key, non-empty-list<string>> $groups  by a name of its own
     *
     * @return array<array-key, list<float>> by the name of the group
     */
    public static function ofGroups(
        \Closure $answers,
        \Closure $figure,
        Table $table,
        array $groups,
        int $repeats,
        int $seed,
        ?Progress $progress = null,
    ): array {
        $base = $figure($answers($table));
        if (null === $base || $table->rows < 2) {
            return [];
        }
        $out = [];
        $done = 0;
        foreach ($groups as $name => $columns) {
            // Each group has a stream of its own: which others are asked about changes nothing.
            $random = Random::stream($seed, 'shuffled '.$name);
            for ($repeat = 0; $repeat < $repeats; ++$repeat) {
                // Some models take a while to answer: whoever waits may stop between two of them.
                $progress?->report($done++ / (\count($groups) * $repeats));
                $order = $random->shuffleArray(range(0, $table->rows - 1));
                $other = $table;
                foreach ($columns as $column) {
                    $other = $other->with($column, $table->column($column)->take($order));
                }
                $shuffled = $figure($answers($other));
                if (null !== $shuffled) {
                    $out[$name][] = $shuffled - $base;
                }
            }
        }

        return $out;
    }
}
