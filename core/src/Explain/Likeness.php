<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * How much a record is like records really seen: the share of them that lie in a thinner place than it, by the mean distance to the 15
 * nearest
 * others. A record of the study has a uniform one, so 50 is as usual as can be and 1 nearly never seen. Definition:
 * docs/methods/how-sure.md.
 */
final class Likeness
{
    private const NEAREST = 15;
    /** What a missing cell costs beside a known one: as a number one standard deviation away. */
    private const MISSING = 1.0;

    /** @var list<string> */
    private array $numbers = [];
    /** @var list<string> */
    private array $categories = [];
    /** @var list<list<float>> per number its value in standard deviations, by record; NAN = missing */
    private array $scaled = [];
    /** @var list<array{float, float}> mean and standard deviation of each number */
    private array $scales = [];
    /** @var list<array<string, int>> per category the code of each value */
    private array $codes = [];
    /** @var list<list<int>> per category its code by record; -1 = missing */
    private array $coded = [];
    /** @var list<list<float>> per category and code half of what a difference costs; one more for values never seen */
    private array $costs = [];
    /** @var list<float> mean distance of each record to the nearest others, ascending */
    private array $thin = [];

    /** @param Table $seen records really seen; their texts and identifiers do not count */
    public function __construct(Table $seen)
    {
        foreach ($seen->names() as $name) {
            $column = $seen->column($name);
            if ($column instanceof NumberColumn || $column instanceof DateColumn) {
                $values = self::values($column);
                $known = array_filter($values, is_finite(...));
                $n = \count($known);
                $mean = $n > 0 ? array_sum($known) / $n : 0.0;
                $sd = $n > 1 ? sqrt(array_sum(array_map(static fn (float $v): float => ($v - $mean) ** 2, $known)) / ($n - 1)) : 0.0;
                if ($sd > 0.0) {
                    $this->numbers[] = $name;
                    $this->scales[] = [$mean, $sd];
                    $this->scaled[] = array_map(static fn (float $v): float => ($v - $mean) / $sd, $values);
                }
            } elseif ($column instanceof CodedColumn && \in_array($column->kind(), [Kind::Category, Kind::YesNo], true)) {
                $counts = \array_slice($column->counts(), 0, \count($column->levels));
                $costs = array_map(static fn (int $c): float => log(($seen->rows + 1) / ($c + 1)) / 2, $counts);
                $this->categories[] = $name;
                $this->codes[] = array_flip($column->levels);
                $this->coded[] = $column->codes;
                $this->costs[] = [...array_values($costs), log($seen->rows + 1) / 2];
            }
        }
        for ($row = 0; $row < $seen->rows; ++$row) {
            $this->thin[] = $this->distance(
                array_map(static fn (array $own): float => $own[$row], $this->scaled),
                array_map(static fn (array $own): int => $own[$row], $this->coded),
                $row,
            );
        }
        sort($this->thin);
    }

    /**
     * @param ?int $itself the place of the record among those seen, if it is one of them: it is judged without itself
     *
     * @return float 0 to 1; 0.5 where nothing was seen to compare with
     */
    public function of(Table $table, int $row, ?int $itself = null): float
    {
        $n = \count($this->thin);
        if (0 === $n) {
            return 0.5;
        }
        $own = $this->distance(...$this->read($table, $row), itself: $itself);
        [$below, $equal] = [0, 0];
        foreach ($this->thin as $other) {
            $below += $other > $own ? 1 : 0;
            $equal += $other === $own ? 1 : 0;
        }

        return ($below + $equal / 2) / $n;
    }

    /**
     * The records seen that are most like it.
     *
     * @return list<int> places among those seen, nearest first
     */
    public function nearest(Table $table, int $row, int $most, ?int $itself = null): array
    {
        $squares = $this->squares(...$this->read($table, $row));
        if (null !== $itself) {
            unset($squares[$itself]);
        }
        asort($squares);

        return \array_slice(array_keys($squares), 0, min($most, \count($this->thin)));
    }

    /** @return array{list<float>, list<int>} what counts of a record: numbers in standard deviations, codes of values */
    private function read(Table $table, int $row): array
    {
        $numbers = $codes = [];
        foreach ($this->numbers as $k => $name) {
            [$mean, $sd] = $this->scales[$k];
            $numbers[] = (self::values($table->column($name)->take([$row]))[0] - $mean) / $sd;
        }
        foreach ($this->categories as $k => $name) {
            $text = $table->column($name)->text($row);
            $codes[] = null === $text ? -1 : $this->codes[$k][$text] ?? \count($this->codes[$k]);
        }

        return [$numbers, $codes];
    }

    /**
     * @param list<float> $numbers
     * @param list<int>   $codes
     */
    private function distance(array $numbers, array $codes, ?int $itself): float
    {
        $squares = $this->squares($numbers, $codes);
        if (null !== $itself) {
            unset($squares[$itself]);
        }
        sort($squares);
        $nearest = \array_slice($squares, 0, self::NEAREST);

        return [] === $nearest ? 0.0 : array_sum(array_map(sqrt(...), $nearest)) / \count($nearest);
    }

    /**
     * @param list<float> $numbers
     * @param list<int>   $codes
     *
     * @return array<int, float> squared distance to each record seen
     */
    private function squares(array $numbers, array $codes): array
    {
        $rows = \count($this->scaled[0] ?? $this->coded[0] ?? []);
        $squares = array_fill(0, max(1, $rows), 0.0);
        foreach ($numbers as $k => $own) {
            foreach ($this->scaled[$k] as $i => $other) {
                $d = $own - $other;
                // One missing cell makes the difference NAN, two make none.
                $squares[$i] += is_nan($d) ? (is_nan($own) && is_nan($other) ? 0.0 : self::MISSING) : $d * $d;
            }
        }
        foreach ($codes as $k => $own) {
            $costs = $this->costs[$k];
            $mine = $own < 0 ? self::MISSING / 2 : $costs[$own];
            foreach ($this->coded[$k] as $i => $other) {
                if ($own !== $other) {
                    $squares[$i] += $mine + ($other < 0 ? self::MISSING / 2 : $costs[$other]);
                }
            }
        }

        return $squares;
    }

    /** @return list<float> */
    private static function values(\Dokimos\Core\Table\Column $column): array
    {
        if ($column instanceof NumberColumn) {
            return $column->values;
        }

        return $column instanceof DateColumn
            ? array_map(static fn (int $s): float => DateColumn::MISSING === $s ? \NAN : $s / DateColumn::DAY, $column->seconds)
            : array_fill(0, $column->count(), \NAN);
    }
}
