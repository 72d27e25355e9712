<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\OtherKind;
use Dokimos\Core\Table\Table;

/**
 * How trees read a table, learned on training rows: every column becomes small whole numbers that keep its order. 0 = missing, or a
 * level that training never saw. Numbers and dates: 1, 2, ... from the smallest values on, one code per distinct value or per bin of about
 * as many rows. Categories: one code per level, the frequent ones first; beyond the most that fit, the rest share the last code.
 */
final readonly class Codes
{
    /** As many codes as fit one byte, with the one for missing. */
    public const BINS = 255;
    private const LEVELS = 253;
    /** Bins are drawn from at most so many rows, taken evenly. */
    private const SAMPLE = 50_000;
    /** Rows of a part. */
    private const PART = 2048;

    /**
     * @param list<string>                                                                                                 $columns
     * @param list<array{cuts: list<float>, low: list<float>, high: list<float>}|array{levels: list<string>, other: bool}> $scales  cuts: code k holds what is over cuts[k-2], up to cuts[k-1]; low, high: the values seen there
     * @param array<array-key, string>                                                                                     $leftOut column => why
     */
    private function __construct(public array $columns, public array $scales, public array $leftOut)
    {
    }

    /**
     * @param list<string> $inputs
     * @param list<int>    $rows   training rows
     * @param int          $most   codes of a column of numbers; more distinct values share bins
     * @param int          $rare   levels in fewer training rows share a code
     */
    public static function learn(Table $table, array $inputs, array $rows, int $most = self::BINS, int $rare = 1): self
    {
        $columns = $scales = $leftOut = [];
        foreach ($inputs as $name) {
            $column = $table->column($name);
            $scale = match (true) {
                $column instanceof CodedColumn => self::levels($column, $rows, $rare),
                $column instanceof NumberColumn => self::bins($column->values, $rows, $most),
                $column instanceof DateColumn => self::bins(self::days($column, array_keys($column->seconds)), $rows, $most),
                default => null,
            };
            if (null === $scale) {
                $leftOut[$name] = \sprintf('a column of kind %s has nothing to divide by', $column->kind()->value);
            } elseif (\count($scale['levels'] ?? $scale['low']) + (true === ($scale['other'] ?? false) ? 1 : 0) < 2) {
                $leftOut[$name] = 'the same value in every training row';
            } else {
                $columns[] = $name;
                $scales[] = $scale;
            }
        }

        return new self($columns, $scales, $leftOut);
    }

    /**
     * @param list<int> $rows
     *
     * @return list<float> one per row asked for
     */
    private static function days(DateColumn $column, array $rows): array
    {
        $out = [];
        foreach ($rows as $row) {
            $s = $column->seconds[$row];
            $out[] = DateColumn::MISSING === $s ? \NAN : (float) ($s / DateColumn::DAY);
        }

        return $out;
    }

    /**
     * @param list<int> $rows
     *
     * @return array{levels: list<string>, other: bool}
     */
    private static function levels(CodedColumn $column, array $rows, int $rare): array
    {
        $seen = [];
        foreach ($column->counts($rows) as $code => $count) {
            if ($count > 0) {
                $seen[] = [$column->levels[$code], $count];
            }
        }
        usort($seen, static fn (array $a, array $b) => $b[1] <=> $a[1] ?: strcmp($a[0], $b[0]));

        $kept = \array_slice(array_filter($seen, static fn (array $s) => $s[1] >= $rare), 0, self::LEVELS);

        return ['levels' => array_column($kept, 0), 'other' => \count($seen) > \count($kept)];
    }

    /**
     * @param list<float> $values
     * @param list<int>   $rows
     *
     * @return array{cuts: list<float>, low: list<float>, high: list<float>}
     */
    private static function bins(array $values, array $rows, int $most): array
    {
        // Where every value is to have a code of its own, every row is looked at.
        $step = $most > self::SAMPLE ? 1 : max(1, intdiv(\count($rows), self::SAMPLE));
        $sorted = [];
        for ($i = 0, $n = \count($rows); $i < $n; $i += $step) {
            $v = $values[$rows[$i]];
            if (is_finite($v)) {
                $sorted[] = $v;
            }
        }
        sort($sorted);
        $distinct = $counts = [];
        $before = null;
        $last = -1;
        foreach ($sorted as $v) {
            if ($v !== $before) {
                $distinct[] = $before = $v;
                $counts[] = 1;
                ++$last;
            } else {
                ++$counts[$last];
            }
        }
        $low = $high = [];
        $exact = \count($distinct) <= $most;
        $room = $exact ? 0.0 : \count($sorted) / $most;
        $held = 0.0;
        $left = \count($sorted);
        $open = false;
        foreach ($distinct as $i => $v) {
            $count = $counts[$i];
            if (!$open) {
                $low[] = $v;
                $high[] = $v;
                $open = true;
                $held = 0.0;
            }
            $high[\count($high) - 1] = $v;
            $held += $count;
            $next = $counts[$i + 1] ?? 0;
            // A value that alone fills a bin gets one; what is left is shared among the bins that are left.
            if ($exact || $held >= $room || $next >= $room) {
                $open = false;
                $left -= $held;
                $bins = $most - \count($low);
                $room = $bins > 0 ? $left / $bins : \INF;
            }
        }
        $cuts = [];
        for ($k = 1, $m = \count($low); $k < $m; ++$k) {
            $cuts[] = self::between($high[$k - 1], $low[$k]);
        }

        return ['cuts' => $cuts, 'low' => $low, 'high' => $high];
    }

    /** Half way between two numbers, and never as large as the second: what is at most this goes with the first. */
    public static function between(float $a, float $b): float
    {
        $middle = $a / 2 + $b / 2;

        return $middle >= $b || $middle < $a ? $a : $middle;
    }

    public function isLevels(int $feature): bool
    {
        return isset($this->scales[$feature]['levels']);
    }

    /** The level behind a code; "others" stands for all that share the last. */
    public function level(int $feature, int $code): string
    {
        return $this->scales[$feature]['levels'][$code - 1] ?? 'others';
    }

    /** @return ?list<int> the place of each level in byte order, by code from 1 on; null for an order */
    public function byteOrder(int $feature): ?array
    {
        $levels = $this->scales[$feature]['levels'] ?? null;
        if (null === $levels) {
            return null;
        }
        asort($levels, \SORT_STRING);
        $places = array_fill(0, \count($levels), 0);
        foreach (array_keys($levels) as $place => $code) {
            $places[$code] = $place;
        }

        return array_values($places);
    }

    /** Codes of a column without that for missing. */
    public function size(int $feature): int
    {
        $scale = $this->scales[$feature];

        return isset($scale['levels']) ? \count($scale['levels']) + ($scale['other'] ? 1 : 0) : \count($scale['cuts'] ?? []) + 1;
    }

    /**
     * @param ?list<int> $rows  all rows when null
     * @param ?list<int> $asked places of the columns wanted; those of the others are empty, and need not be in the table. All when null
     *
     * @return list<list<int>> per column, one code per row asked for
     */
    public function of(Table $table, ?array $rows = null, ?array $asked = null): array
    {
        return $this->coded($table, $rows, $this->rulers(null === $rows ? $table->rows : \count($rows), $asked));
    }

    /**
     * @param int        $many  rows that will be asked about, all together
     * @param ?list<int> $asked
     *
     * @return array<int, Ruler> by place of the columns wanted; that of levels measures nothing
     */
    private function rulers(int $many, ?array $asked): array
    {
        $out = [];
        foreach ($asked ?? array_keys($this->columns) as $f) {
            $out[$f] = Ruler::of($this->scales[$f]['cuts'] ?? [], $many);
        }

        return $out;
    }

    /**
     * @param ?list<int>        $rows
     * @param array<int, Ruler> $rulers of the columns wanted
     *
     * @return list<list<int>> as of() gives them
     */
    private function coded(Table $table, ?array $rows, array $rulers): array
    {
        $out = [];
        foreach ($this->columns as $f => $name) {
            if (!isset($rulers[$f])) {
                $out[] = [];
                continue;
            }
            $column = $table->column($name);
            $scale = $this->scales[$f];
            if (isset($scale['levels'])) {
                $out[] = $column instanceof CodedColumn ? self::levelCodes(
                    $column,
                    $scale['levels'],
                    $scale['other'] ?? false,
                    $rows,
                ) : throw new OtherKind($name, $column, OtherKind::ANOTHER);
                continue;
            }
            $out[] = match (true) {
                $column instanceof NumberColumn => $rulers[$f]->codes($column->values, $rows),
                $column instanceof DateColumn => $rulers[$f]->codes(self::days($column, $rows ?? array_keys($column->seconds)), null),
                default => throw new OtherKind($name, $column, OtherKind::ANOTHER),
            };
        }

        return $out;
    }

    /**
     * The same row after row, for some rows at a time: what is asked about them together should fit the processor's cache, and a large
     * table needs no more memory than a small one.
     *
     * @param ?list<int> $rows
     * @param ?list<int> $asked
     *
     * @return iterable<RowCodes>
     */
    public function parts(Table $table, ?array $rows, ?array $asked): iterable
    {
        $count = null === $rows ? $table->rows : \count($rows);
        $rulers = $this->rulers($count, $asked);
        for ($from = 0; $from < $count; $from += self::PART) {
            $part = null === $rows ? range($from, min($count, $from + self::PART) - 1) : \array_slice($rows, $from, self::PART);
            yield RowCodes::of($this->coded($table, $part, $rulers), \count($part));
        }
    }

    /**
     * @param list<string> $levels
     * @param ?list<int>   $rows
     *
     * @return list<int>
     */
    private static function levelCodes(CodedColumn $column, array $levels, bool $other, ?array $rows): array
    {
        $known = array_flip($levels);
        $map = [-1 => 0];
        foreach ($column->levels as $code => $level) {
            $map[$code] = isset($known[$level]) ? $known[$level] + 1 : ($other ? \count($levels) + 1 : 0);
        }
        $codes = $column->codes;
        $out = [];
        if (null === $rows) {
            foreach ($codes as $code) {
                $out[] = $map[$code];
            }
        } else {
            foreach ($rows as $row) {
                $out[] = $map[$codes[$row]];
            }
        }

        return $out;
    }

    /**
     * The number up to which values have at most this code, between the values seen.
     *
     * @throws \LogicException categories have no threshold
     */
    public function threshold(int $feature, int $code, int $next): float
    {
        $scale = $this->scales[$feature];

        return isset($scale['low'], $scale['high']) ? self::between(
            $scale['high'][$code - 1],
            $scale['low'][$next - 1],
        ) : throw new \LogicException('Categories have no threshold.');
    }

    /** @return array{columns: list<string>, scales: list<array{cuts: list<float>}|array{levels: list<string>, other: bool}>, left_out: array<array-key, string>} without what only training needs */
    public function toArray(): array
    {
        return [
            'columns' => $this->columns,
            'scales' => array_map(
                static fn (array $s) => isset($s['levels']) ? [
                    'levels' => $s['levels'],
                    'other' => $s['other'] ?? false,
                ] : ['cuts' => $s['cuts'] ?? []],
                $this->scales,
            ),
            'left_out' => $this->leftOut,
        ];
    }

    /** @param array{columns: list<string>, scales: list<array{cuts?: list<float|int>, levels?: list<string>, other?: bool}>, left_out: array<array-key, string>} $data */
    public static function fromArray(array $data): self
    {
        return new self(
            $data['columns'],
            array_map(
                static fn (array $s) => isset($s['levels']) ? ['levels' => $s['levels'], 'other' => $s['other'] ?? false] : [
                    'cuts' => array_map(floatval(...), $s['cuts'] ?? []),
                    'low' => [],
                    'high' => [],
                ],
                $data['scales'],
            ),
            $data['left_out'],
        );
    }
}
