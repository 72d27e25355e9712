<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * Any two columns in the form that their kinds want: points (or how dense they lie), boxes, a mosaic, or a line over time; each part
 * with the event's share where the outcome may be seen. Numbers may be given in either place.
 */
final readonly class TwoColumns
{
    /**
     * @param string      $form    "points", "density", "boxes", "mosaic" or "line"
     * @param string      $x       the column across
     * @param string      $y       the column up, or the parts of a mosaic
     * @param ?Pair       $pair    how strongly they go together; null when that cannot be said
     * @param list<mixed> $parts   points: {x, y, row, event}; density: {x, y, x2, y2, records} + share; boxes: {value, records, low, q1, median, q3, high, apart: [{row, value}]} + share; mosaic: {x, y, records} + share; line: {from, to, label, value, records} + share and an interval of the mean
     * @param int         $records records where both are present
     */
    private function __construct(public string $form, public string $x, public string $y, public ?Pair $pair, public array $parts, public int $records)
    {
    }

    /**
     * @param ?list<float> $event 1, 0, or NAN where unknown or sealed
     */
    public static function of(Table $table, string $x, string $y, ?array $event = null): self
    {
        $a = $table->column($x);
        $b = $table->column($y);
        $pair = Strength::of($x, $a, $y, $b);
        $told = new Told($event);
        $date = $a instanceof DateColumn || $b instanceof DateColumn;
        if ($date && !($a instanceof DateColumn && $b instanceof DateColumn)) {
            if (!$a instanceof DateColumn) {
                [$x, $y, $a, $b] = [$y, $x, $b, $a];
            }
            \assert($a instanceof DateColumn);

            return new self('line', $x, $y, $pair, ...OverTime::parts($a, $b, $told));
        }
        $p = self::values($a);
        $q = self::values($b);
        if (null !== $p && null !== $q) {
            return new self(\count($p) > Scatter::MOST ? 'density' : 'points', $x, $y, $pair, ...Scatter::parts($p, $q, $told));
        }
        if (null !== $p || null !== $q) {
            // Boxes stand upright over the values of the category.
            return null !== $q
                ? new self('boxes', $x, $y, $pair, ...Boxes::parts(self::codes($a), $q, $told))
                : new self('boxes', $y, $x, $pair, ...Boxes::parts(self::codes($b), $p ?? [], $told));
        }

        return new self('mosaic', $x, $y, $pair, ...Mosaic::parts(self::codes($a), self::codes($b), $told));
    }

    /**
     * The same with the numbers that its records have elsewhere.
     *
     * @param list<int> $numbers
     */
    public function numbered(array $numbers): self
    {
        $parts = [];
        /** @var array<string, mixed> $part */
        foreach ($this->parts as $part) {
            if (\is_int($part['row'] ?? null)) {
                $part['row'] = $numbers[$part['row']];
            }
            if (isset($part['apart'])) {
                /** @var list<array{row: int, value: float}> $apart */
                $apart = $part['apart'];
                $part['apart'] = array_map(static fn (array $a) => ['row' => $numbers[$a['row']], 'value' => $a['value']], $apart);
            }
            $parts[] = $part;
        }

        return new self($this->form, $this->x, $this->y, $this->pair, $parts, $this->records);
    }

    /** @return ?list<float> */
    private static function values(Column $column): ?array
    {
        return $column instanceof NumberColumn || $column instanceof DateColumn ? Strength::numbers($column) : null;
    }

    private static function codes(Column $column): CodedColumn
    {
        if ($column instanceof CodedColumn) {
            return $column;
        }
        $cells = [];
        for ($row = 0, $rows = $column->count(); $row < $rows; ++$row) {
            $cells[] = $column->text($row);
        }

        return CodedColumn::fromCells($cells);
    }
}
