<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Picture\Operand;
use Dokimos\Core\Picture\Strength;
use Dokimos\Core\Table\Table;

/**
 * Columns of which each goes together with another one of its group: what they carry they share, and shuffling one leaves the others.
 * Definition: docs/methods/importance.md.
 */
final class GoesTogether
{
    /** Rank correlation, correlation ratio or Cramér's V from which two columns are joined. */
    private const JOINED = 0.5;

    /**
     * @param list<string> $columns of the table
     *
     * @return list<non-empty-list<string>> groups of two and more, in the order of their first column
     */
    public static function groups(Table $table, array $columns): array
    {
        $operands = array_map(static fn (string $c): Operand => Operand::of($c, $table->column($c)), $columns);
        $of = array_keys($columns);
        foreach ($operands as $i => $one) {
            for ($j = 0; $j < $i; ++$j) {
                $pair = $of[$i] === $of[$j] ? null : Strength::between($operands[$j], $one);
                if (null !== $pair && abs($pair->strength) >= self::JOINED) {
                    [$from, $to] = [max($of[$i], $of[$j]), min($of[$i], $of[$j])];
                    $of = array_map(static fn (int $g): int => $g === $from ? $to : $g, $of);
                }
            }
        }
        $groups = [];
        foreach ($of as $i => $group) {
            $groups[$group][] = $columns[$i];
        }

        return array_values(array_filter($groups, static fn (array $g): bool => \count($g) > 1));
    }
}
