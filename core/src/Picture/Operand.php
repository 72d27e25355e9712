<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;

/** A column made ready to be measured against many others: its numbers, sorted once, or its codes. */
final readonly class Operand
{
    /**
     * @param ?list<float> $numbers NAN = missing; null for a category
     * @param list<int>    $order   rows with a number, ascending by it
     * @param ?list<float> $ranks   mid-ranks by row when no number is missing
     * @param ?list<int>   $codes   -1 = missing
     */
    private function __construct(public string $name, public ?array $numbers, public array $order, public ?array $ranks, public ?array $codes)
    {
    }

    public static function of(string $name, Column $column): self
    {
        $numbers = Strength::numbers($column);
        if (null === $numbers) {
            return new self($name, null, [], null, $column instanceof CodedColumn ? $column->codes : null);
        }
        $present = array_filter($numbers, static fn (float $v) => $v === $v);
        asort($present, \SORT_NUMERIC);
        $order = array_keys($present);

        return new self($name, $numbers, $order, \count($order) === \count($numbers) ? self::ranks($order, $numbers, null) : null, $column instanceof CodedColumn ? $column->codes : null);
    }

    /** @return list<float> mid-ranks among its own numbers by row; 0 = missing; empty for a category */
    public function places(): array
    {
        return null === $this->numbers ? [] : $this->ranks ?? self::ranks($this->order, $this->numbers, null);
    }

    /**
     * Mid-ranks among the rows where the other column has a number too; no sorting, for the order is known.
     *
     * @return list<float> by row; 0 where either is missing
     */
    public function ranksBeside(self $other): array
    {
        if (null !== $this->ranks && \count($other->order) === \count($other->numbers ?? [])) {
            return $this->ranks;
        }

        return self::ranks($this->order, $this->numbers ?? [], $other->numbers);
    }

    /**
     * Kernel: one pass over the sorted rows; equal values share the mean of their places.
     *
     * @param list<int>    $order
     * @param list<float>  $values
     * @param ?list<float> $beside
     *
     * @return list<float>
     */
    private static function ranks(array $order, array $values, ?array $beside): array
    {
        $ranks = array_fill(0, \count($values), 0.0);
        $place = 0;
        $last = \NAN;
        $tied = [];
        foreach ($order as $row) {
            if (null !== $beside && $beside[$row] !== $beside[$row]) {
                continue;
            }
            $v = $values[$row];
            if ($v !== $last && [] !== $tied) {
                $rank = $place - 0.5 * (\count($tied) - 1);
                foreach ($tied as $t) {
                    $ranks[$t] = $rank;
                }
                $tied = [];
            }
            $tied[] = $row;
            $last = $v;
            ++$place;
        }
        $rank = $place - 0.5 * (\count($tied) - 1);
        foreach ($tied as $t) {
            $ranks[$t] = $rank;
        }

        return array_values($ranks);
    }
}
