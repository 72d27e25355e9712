<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Random;
use Dokimos\Core\Table\Stacked;
use Dokimos\Core\Table\Table;

/**
 * Shares one answer of any model out among columns as they came (Shapley values by drawn orders; Castro, Gómez and Tejada 2009): starting
 * from each
 * background record the record's columns come in one after the other, in a drawn order and in its reverse, and what each changes counts for
 * it.
 * The accounts add up whatever was drawn; what the drawing leaves uncertain is told for each. Definition: docs/methods/accounts.md.
 */
final readonly class SampledAccount
{
    /** Each background record has at least so many pairs of orders: of one nothing could be said about chance. */
    private const FEWEST = 2;
    private const MOST = 8;

    /**
     * @param \Closure(Table): list<float> $answers NAN = none
     * @param Table                        $record  the same columns, one row
     * @param list<non-empty-list<string>> $players columns that come in together
     * @param float                        $enough  draws go on until no standard error is above this
     *
     * @return ?Told null where the model has no answer for the record
     */
    public static function of(\Closure $answers, Table $background, Table $record, array $players, float $enough, int $seed): ?Told
    {
        $answer = $answers($record)[0] ?? \NAN;
        if (is_nan($answer)) {
            return null;
        }
        $starts = $answers($background);
        $rows = array_keys(array_filter($starts, is_finite(...)));
        if ([] === $rows) {
            return null;
        }
        $background = $background->take($rows);
        $starts = array_map(static fn (int $r): float => $starts[$r], $rows);
        $m = \count($players);
        $b = \count($rows);
        $random = Random::stream($seed, 'account');
        // A player whose cells are those of the record in every background record changes nothing: it is left out of the draws.
        $sums = $squares = array_fill(0, $m, array_fill(0, $b, 0.0));
        $round = 0;
        $errors = array_fill(0, $m, 0.0);
        while ($m > 0 && $round < self::MOST) {
            $orders = [];
            for ($i = 0; $i < $b; ++$i) {
                $orders[] = $random->shuffleArray(range(0, $m - 1));
            }
            $one = self::changes($answers, $background, $record, $players, $orders, $starts, $answer);
            $other = self::changes($answers, $background, $record, $players, array_map(array_reverse(...), $orders), $starts, $answer);
            ++$round;
            for ($j = 0; $j < $m; ++$j) {
                for ($i = 0; $i < $b; ++$i) {
                    $value = ($one[$j][$i] + $other[$j][$i]) / 2;
                    $sums[$j][$i] += $value;
                    $squares[$j][$i] += $value * $value;
                }
            }
            if ($round < self::FEWEST) {
                continue;
            }
            foreach ($sums as $j => $own) {
                $variance = 0.0;
                foreach ($own as $i => $sum) {
                    $variance += max(0.0, $squares[$j][$i] - $sum * $sum / $round) / ($round - 1) / $round;
                }
                $errors[$j] = sqrt($variance) / $b;
            }
            if ([] !== $errors && max($errors) <= $enough) {
                break;
            }
        }

        return new Told(
            array_sum($starts) / $b,
            $answer,
            array_values(array_map(static fn (array $own): float => array_sum($own) / $b / max(1, $round), $sums)),
            array_values($errors),
            $players,
            2 * $round * $b,
        );
    }

    /**
     * @param \Closure(Table): list<float> $answers
     * @param list<list<string>>           $players
     * @param list<list<int>>              $orders  per background record
     * @param list<float>                  $starts
     *
     * @return list<list<float>> per player and background record what it changed as it came in
     */
    private static function changes(
        \Closure $answers,
        Table $background,
        Table $record,
        array $players,
        array $orders,
        array $starts,
        float $end,
    ): array {
        [$m, $b] = [\count($players), \count($orders)];
        // All states between, side by side: state s of record i has the first s + 1 players of its order.
        $from = [];
        foreach ($players as $j => $columns) {
            $from[$j] = [];
        }
        for ($s = 0; $s < $m - 1; ++$s) {
            foreach ($orders as $i => $order) {
                foreach ($order as $place => $j) {
                    $from[$j][] = $place <= $s ? $b : $i;
                }
            }
        }
        $states = [];
        $both = [];
        foreach ($players as $j => $columns) {
            foreach ($columns as $column) {
                $both[$column] ??= Stacked::columns($background->column($column), $record->column($column));
                $states[$column] = $both[$column]->take($from[$j]);
            }
        }
        $between = $m > 1 ? $answers(Table::of($states, $b * ($m - 1))) : [];
        $out = array_fill(0, $m, array_fill(0, $b, 0.0));
        foreach ($orders as $i => $order) {
            $before = $starts[$i];
            foreach ($order as $s => $j) {
                $after = $s < $m - 1 ? $between[$s * $b + $i] : $end;
                if (is_nan($after)) {
                    $after = $before;
                }
                $out[$j][$i] = $after - $before;
                $before = $after;
            }
        }

        return array_values(array_map(array_values(...), $out));
    }
}
