<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * Why a logistic model gives one record its chance: per column, coefficient times the distance from the training mean. The
 * contributions add up to the record's log-odds less those of the average training record. Definition: docs/methods/reasons.md.
 */
final class Contributions
{
    /**
     * @param Table $prepared the record after preparation
     *
     * @return ?array{base: float, logOdds: float, chance: float, low: float, high: float, columns: list<array{column: string, value: ?string, effect: float}>} strongest first; null when a needed value is missing
     */
    public static function of(LogisticModel $model, Table $prepared, int $row): ?array
    {
        if ([] === $model->coding->complete($prepared, [$row])) {
            return null;
        }
        $block = $model->matrix($prepared, [$row])->blocks[0];
        $x = array_map(static fn (array $column) => $column[0], $block);
        $columnOf = ['(intercept)' => null];
        foreach ($model->coding->terms as $term) {
            $columnOf[$term->name()] = $term->column;
        }
        $base = 0.0;
        $effects = [];
        foreach ($model->coefficients as $j => $coefficient) {
            $base += $coefficient->estimate * (0 === $j ? 1.0 : $model->means[$j]);
            $column = $columnOf[$coefficient->name];
            if (null !== $column) {
                $effects[$column] = ($effects[$column] ?? 0.0) + $coefficient->estimate * ($x[$j] - $model->means[$j]);
            }
        }
        $logOdds = $base + array_sum($effects);
        uasort($effects, static fn (float $a, float $b) => abs($b) <=> abs($a));
        $columns = [];
        foreach ($effects as $column => $effect) {
            $column = (string) $column;
            $columns[] = ['column' => $column, 'value' => self::read($prepared, $column, $row), 'effect' => $effect];
        }
        $error = $model->standardError($x);

        return [
            'base' => $base,
            'logOdds' => $logOdds,
            'chance' => LogisticModel::chance($logOdds),
            'low' => LogisticModel::chance($logOdds - Normal::Z95 * $error),
            'high' => LogisticModel::chance($logOdds + Normal::Z95 * $error),
            'columns' => $columns,
        ];
    }

    private static function read(Table $table, string $name, int $row): ?string
    {
        $column = $table->column($name);

        return match (true) {
            $column instanceof NumberColumn => null === $column->text($row) ? null : Words::number($column->values[$row]),
            $column instanceof DateColumn => null === $column->text($row) ? null : gmdate('j M Y', $column->seconds[$row]),
            default => $column->text($row),
        };
    }

    /**
     * The strongest contributions as short phrases: "days ahead 12 (+0.31)".
     *
     * @param list<array{column: string, value: ?string, effect: float}> $columns
     */
    public static function sentence(array $columns, int $most = 3): string
    {
        $phrases = [];
        foreach (\array_slice($columns, 0, $most) as $c) {
            if (abs($c['effect']) < 0.005) {
                break;
            }
            $sign = $c['effect'] > 0 ? '+' : "\u{2212}";
            $phrases[] = \sprintf('%s %s (%s%.2f)', str_replace('_', ' ', $c['column']), $c['value'] ?? 'missing', $sign, abs($c['effect']));
        }

        return implode('; ', $phrases);
    }
}
