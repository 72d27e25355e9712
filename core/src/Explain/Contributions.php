<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Learn\Linear\LinearModel;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * Why a regression answers as it does for one record: per column, coefficient times the distance from the training mean. The contributions
 * add up to the record's answer (of an event its log-odds) less that of the average training record. Definition: docs/methods/reasons.md.
 */
final class Contributions
{
    /**
     * @param Table $prepared the record after preparation
     *
     * @return ?array{base: float, logOdds: float, chance: float, low: ?float, high: ?float, columns: list<array{column: string, value: ?string, effect: float}>} strongest first; null when a needed value is missing; no interval where the coefficients have no errors
     */
    public static function of(LogisticModel $model, Table $prepared, int $row): ?array
    {
        if ([] === $model->coding->complete($prepared, [$row])) {
            return null;
        }
        $block = $model->matrix($prepared, [$row])->blocks[0];
        $x = array_map(static fn (array $column) => $column[0], $block);
        $terms = [];
        foreach ($model->coefficients as $j => $c) {
            $terms[] = [$c->name, $c->estimate, $x[$j], 0 === $j ? 1.0 : $model->means[$j]];
        }
        [$base, $columns] = self::account($model->coding, $terms, $prepared, $row);
        $logOdds = $base + array_sum(array_column($columns, 'effect'));
        $error = $model->standardError($x);

        return [
            'base' => $base,
            'logOdds' => $logOdds,
            'chance' => LogisticModel::chance($logOdds),
            'low' => null === $error ? null : LogisticModel::chance($logOdds - Normal::Z95 * $error),
            'high' => null === $error ? null : LogisticModel::chance($logOdds + Normal::Z95 * $error),
            'columns' => $columns,
        ];
    }

    /**
     * The same of a predicted number, in its own unit.
     *
     * @return ?array{base: float, columns: list<array{column: string, value: ?string, effect: float}>} null when a needed value is missing, or the model does not know the average record
     */
    public static function ofNumber(LinearModel $model, Table $prepared, int $row): ?array
    {
        if ([] === $model->means || [] === $model->coding->complete($prepared, [$row])) {
            return null;
        }
        $x = $model->terms($prepared, [$row])[0];
        $terms = array_map(static fn (string $name, float $b, float $v, float $mean): array => [$name, $b, $v, $mean], $model->names, $model->estimates, $x, $model->means);
        [$base, $columns] = self::account($model->coding, $terms, $prepared, $row);

        return ['base' => $base, 'columns' => $columns];
    }

    /**
     * @param list<array{string, float, float, float}> $terms name, coefficient, value and training mean, the intercept first
     *
     * @return array{float, list<array{column: string, value: ?string, effect: float}>} the average record's answer, and effects by column
     */
    private static function account(Coding $coding, array $terms, Table $prepared, int $row): array
    {
        $columnOf = [];
        foreach ($coding->terms as $term) {
            $columnOf[$term->name()] = $term->column;
        }
        $base = 0.0;
        $effects = [];
        foreach ($terms as [$name, $estimate, $value, $mean]) {
            $base += $estimate * $mean;
            $column = $columnOf[$name] ?? null;
            if (null !== $column) {
                $effects[$column] = ($effects[$column] ?? 0.0) + $estimate * ($value - $mean);
            }
        }
        uasort($effects, static fn (float $a, float $b) => abs($b) <=> abs($a));
        $columns = [];
        foreach ($effects as $column => $effect) {
            $column = (string) $column;
            $columns[] = ['column' => $column, 'value' => self::read($prepared, $column, $row), 'effect' => $effect];
        }

        return [$base, $columns];
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
     * @param float                                                      $least   effects below are not worth a word
     */
    public static function sentence(array $columns, int $most = 3, float $least = 0.005): string
    {
        $phrases = [];
        foreach (\array_slice($columns, 0, $most) as $c) {
            if (abs($c['effect']) < $least) {
                break;
            }
            $sign = $c['effect'] > 0 ? '+' : "\u{2212}";
            $size = abs($c['effect']);
            $phrases[] = \sprintf('%s %s (%s%s)', str_replace('_', ' ', $c['column']), $c['value'] ?? 'missing', $sign, $size < 100 ? \sprintf('%.2f', $size) : number_format($size));
        }

        return implode('; ', $phrases);
    }
}
