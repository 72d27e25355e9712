<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * Why a sum of terms answers as it does for one record: per column, coefficient times the distance from the training mean. The contributions
 * add up to the record's answer (of an event its log-odds) less that of the average training record. Definition: docs/methods/reasons.md.
 */
final readonly class Account
{
    /**
     * @param float                                                      $base    the average training record's answer
     * @param list<array{column: string, value: ?string, effect: float}> $columns strongest first
     * @param ?float                                                     $logOdds of an event
     * @param ?float                                                     $low     of its chance, at 95 %; none where the coefficients have no errors
     * @param float                                                      $least   effects below are not worth a word
     */
    public function __construct(public float $base, public array $columns, public float $least, public ?float $logOdds = null, public ?float $low = null, public ?float $high = null)
    {
    }

    /**
     * @param list<array{string, float, float, float}> $terms name, coefficient, value and training mean, the intercept first
     *
     * @return array{float, list<array{column: string, value: ?string, effect: float}>} the average record's answer, and effects by column
     */
    public static function of(Coding $coding, array $terms, Table $prepared, int $row): array
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

    /** The strongest contributions as short phrases: "days ahead 12 (+0.31)". */
    public function sentence(int $most = 3): string
    {
        $phrases = [];
        foreach (\array_slice($this->columns, 0, $most) as $c) {
            if (abs($c['effect']) < $this->least) {
                break;
            }
            $sign = $c['effect'] > 0 ? '+' : "\u{2212}";
            $size = abs($c['effect']);
            $phrases[] = \sprintf('%s %s (%s%s)', str_replace('_', ' ', $c['column']), $c['value'] ?? 'missing', $sign, $size < 100 ? \sprintf('%.2f', $size) : number_format($size));
        }

        return implode('; ', $phrases);
    }
}
