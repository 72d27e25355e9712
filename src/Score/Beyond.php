<?php

declare(strict_types=1);

namespace App\Score;

use App\Table\DataTable;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** What of new records lies beyond those that a model was made with: numbers outside their range, values that none of them had. */
final readonly class Beyond
{
    /** Scored as it is, and marked of low confidence. */
    public const SCORE = 'score, mark low confidence';
    /** Scored as if it stood at the end of the range. */
    public const HOLD = 'score as the end of the range';
    public const LEAVE = 'leave out, and say so';
    /** A column that is not there reads as missing. */
    public const MISSING = 'count as missing';
    /** A column that is not there reads as its median, or its most frequent value, among the records the model was made with. */
    public const FILL = 'fill with the usual value';
    public const ANSWERS = [self::SCORE, self::HOLD, self::LEAVE, self::MISSING, self::FILL];

    /**
     * @param array<string, array{float, float}> $ranges least and most by column
     * @param array<string, array<string, true>> $values by column of categories
     * @param array<string, float|string>        $usual  by column the median, or the most frequent value
     */
    private function __construct(private array $ranges, private array $values, private array $usual)
    {
    }

    /** @param list<string> $columns that the model asks for */
    public static function of(DataTable $made, array $columns): self
    {
        $ranges = $values = $usual = [];
        foreach ($made->columns() as $column) {
            if (!\in_array($column->name(), $columns, true)) {
                continue;
            }
            $summary = $column->profile()['summary'] ?? [];
            $middle = \is_array($summary) ? $summary['median'] ?? $summary['mode'] ?? null : null;
            if (Kind::Number === $column->kind() ? is_numeric($middle) : \in_array($middle, $column->levels(), true)) {
                $usual[$column->name()] = is_numeric($middle) && Kind::Number === $column->kind() ? (float) $middle : (string) $middle;
            }
            $ends = \is_array($summary) ? [$summary['min'] ?? null, $summary['max'] ?? null] : [null, null];
            if (Kind::Number === $column->kind() && is_numeric($ends[0]) && is_numeric($ends[1])) {
                $ranges[$column->name()] = [(float) $ends[0], (float) $ends[1]];
            } elseif (Kind::Category === $column->kind() || Kind::YesNo === $column->kind()) {
                $values[$column->name()] = array_fill_keys($column->levels(), true);
            }
        }

        return new self($ranges, $values, $usual);
    }

    /** What a column holds usually, in words; null where it is none of numbers and categories. */
    public function usual(string $column): ?string
    {
        $usual = $this->usual[$column] ?? null;

        return \is_float($usual) ? NumberColumn::write($usual) : $usual;
    }

    /**
     * @param Table $records with columns named as the model asks for them
     *
     * @return array<string, string> by column how many records lie beyond its range, in a sentence; values never seen are the model's own
     *                               remark
     */
    public function summary(Table $records): array
    {
        $out = [];
        foreach ($this->ranges as $name => [$least, $most]) {
            // A column may be named by a number.
            $name = (string) $name;
            $column = $records->has($name) ? $records->column($name) : null;
            $values = array_filter(
                $column instanceof NumberColumn ? $column->values : [],
                static fn (float $v): bool => $v < $least || $v > $most,
            );
            if ([] !== $values) {
                sort($values);
                $out[$name] = \sprintf(
                    '%s reaches beyond %s to %s, which the model was made with: %s in %s %s.',
                    $name,
                    NumberColumn::write($least),
                    NumberColumn::write($most),
                    implode(', ', array_map(NumberColumn::write(...), \array_slice(array_values(array_unique($values)), -3))),
                    number_format(\count($values)),
                    1 === \count($values) ? 'record' : 'records',
                );
            }
        }

        return $out;
    }

    /**
     * @param Table         $records with columns named as the model asks for them
     * @param ?list<string> $only    in these columns
     *
     * @return array<int, list<string>> by row what is beyond, in words; rows with nothing are left out
     */
    public function said(Table $records, ?array $only = null): array
    {
        $out = [];
        foreach ($records->columns() as $name => $column) {
            $name = (string) $name;
            if (null !== $only && !\in_array($name, $only, true)) {
                continue;
            }
            if ($column instanceof NumberColumn && isset($this->ranges[$name])) {
                [$least, $most] = $this->ranges[$name];
                foreach ($column->values as $row => $v) {
                    if ($v < $least || $v > $most) {
                        $out[$row][] = \sprintf(
                            '%s %s is beyond %s',
                            $name,
                            NumberColumn::write($v),
                            NumberColumn::write($v < $least ? $least : $most),
                        );
                    }
                }
            } elseif ($column instanceof CodedColumn && isset($this->values[$name])) {
                foreach ($column->codes as $row => $code) {
                    if ($code >= 0 && !isset($this->values[$name][$column->levels[$code]])) {
                        $out[$row][] = \sprintf('%s "%s" was never seen', $name, mb_strimwidth($column->levels[$code], 0, 40, '…'));
                    }
                }
            }
        }
        ksort($out);

        return $out;
    }

    /**
     * Records as they are scored by the answers given.
     *
     * @param array<string, string> $answers by column
     *
     * @return array{Table, array<int, string>} with values held at the ends of ranges, and by row why it is left out
     */
    public function settled(Table $records, array $answers): array
    {
        $hold = array_keys($answers, self::HOLD, true);
        $leave = array_keys($answers, self::LEAVE, true);
        $out = [];
        foreach ([] === $leave ? [] : $this->said($records, array_map(strval(...), $leave)) as $row => $said) {
            $out[$row] = implode('; ', $said);
        }
        foreach (array_map(strval(...), array_keys($answers, self::FILL, true)) as $name) {
            $usual = $this->usual[$name] ?? null;
            if (null !== $usual && $records->has($name)) {
                $records = $records->with($name, \is_float($usual)
                    ? new NumberColumn(array_fill(0, $records->rows, $usual))
                    : new CodedColumn(array_fill(0, $records->rows, 0), [$usual], $records->column($name)->kind()));
            }
        }
        foreach (array_map(strval(...), $hold) as $name) {
            $column = $records->has($name) ? $records->column($name) : null;
            if ($column instanceof NumberColumn && isset($this->ranges[$name])) {
                [$least, $most] = $this->ranges[$name];
                $records = $records->with($name, new NumberColumn(array_map(
                    static fn (float $v): float => $v < $least ? $least : ($v > $most ? $most : $v),
                    $column->values,
                )));
            }
        }

        return [$records, $out];
    }
}
