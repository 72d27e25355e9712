<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Design\Measured;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Profile\EntropyBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\OtherKind;

/**
 * How a column becomes a few values, learned on training rows: categories by their levels, the rarest together; numbers and dates in bins
 * that tell the classes apart (docs/methods/preparation.md). Missing cells are a value of their own where training rows had such and that
 * was asked for; they, and levels never seen, are skipped otherwise.
 */
final readonly class Discrete
{
    /**
     * @param ?list<float> $cuts    of a number or a date; null for a category
     * @param list<string> $levels  of a category, in byte order
     * @param bool         $other   whether the last value is all other levels
     * @param bool         $missing whether missing is a value, the very last
     */
    private function __construct(
        public string $column,
        private ?array $cuts,
        private array $levels,
        private bool $other,
        private bool $missing,
        private bool $isDate,
    ) {
    }

    /**
     * @param list<int> $rows    training rows
     * @param list<int> $classes of these rows
     * @param int       $most    levels of a category; the less frequent ones share a value
     * @param bool      $own     whether missing cells are a value of their own
     *
     * @return self|string why there is nothing to tell
     */
    public static function learn(string $name, Column $column, array $rows, array $classes, int $most, bool $own): self|string
    {
        $isNumber = $column instanceof NumberColumn || $column instanceof DateColumn;
        if (!$isNumber && !$column instanceof CodedColumn) {
            return \sprintf('a column of kind %s has no values that repeat', $column->kind()->value);
        }
        $missing = $own && ($isNumber ? Measured::lacks($column, $rows) : self::lacks($column, $rows));
        if ($column instanceof CodedColumn) {
            $counts = [];
            foreach ($column->counts($rows) as $code => $count) {
                if ($count > 0) {
                    $counts[$column->levels[$code]] = $count;
                }
            }
            uksort(
                $counts,
                static fn (int|string $a, int|string $b): int => $counts[$b] <=> $counts[$a] ?: strcmp((string) $a, (string) $b),
            );
            $levels = array_map(strval(...), array_keys($counts));
            $kept = \count($levels) > $most ? \array_slice($levels, 0, $most - 1) : $levels;
            sort($kept, \SORT_STRING);
            $made = new self($name, null, $kept, \count($kept) < \count($levels), $missing, false);
        } else {
            $values = array_map(static fn (float $v): float => is_finite($v) ? $v : \NAN, Measured::of($column, $rows));
            $made = new self($name, EntropyBins::of($values, $classes)['cuts'], [], false, $missing, $column instanceof DateColumn);
        }

        return $made->size() > 1 ? $made : ($isNumber ? 'no cut of it tells the classes apart' : 'the same value in every training row');
    }

    /** @param list<int> $rows */
    private static function lacks(CodedColumn $column, array $rows): bool
    {
        foreach ($rows as $row) {
            if ($column->codes[$row] < 0) {
                return true;
            }
        }

        return false;
    }

    /** How many values there are. */
    public function size(): int
    {
        return (null === $this->cuts ? \count($this->levels) + (int) $this->other : \count($this->cuts) + 1) + (int) $this->missing;
    }

    /**
     * @param list<int> $rows
     *
     * @return list<int> per row the place of its value; -1 = skipped
     */
    public function codes(Column $column, array $rows): array
    {
        $none = $this->missing ? $this->size() - 1 : -1;
        if (null === $this->cuts) {
            if (!$column instanceof CodedColumn) {
                throw new OtherKind($this->column, $column, OtherKind::ANOTHER);
            }
            $known = array_flip($this->levels);
            $map = [-1 => $none];
            foreach ($column->levels as $code => $level) {
                $map[$code] = $known[$level] ?? ($this->other ? \count($this->levels) : -1);
            }
            $out = [];
            foreach ($rows as $row) {
                $out[] = $map[$column->codes[$row]];
            }

            return $out;
        }
        if (!$column instanceof NumberColumn && !$column instanceof DateColumn) {
            throw new OtherKind($this->column, $column, OtherKind::ANOTHER);
        }
        $out = [];
        foreach (Measured::of($column, $rows) as $v) {
            if (!is_finite($v)) {
                $out[] = $none;
                continue;
            }
            $code = 0;
            foreach ($this->cuts as $cut) {
                $code += $v > $cut ? 1 : 0;
            }
            $out[] = $code;
        }

        return $out;
    }

    /**
     * What stands beside the value of a record.
     *
     * @param list<float> $by      by the place of the value
     * @param float       $skipped where it is skipped
     */
    public function told(Frame $frame, array $by, float $skipped): Expression
    {
        $column = $frame->column($this->column);
        $none = $this->missing ? $by[$this->size() - 1] : $skipped;
        if (null === $this->cuts) {
            $levels = \count($this->levels);

            return new Lookup(
                $column,
                array_combine($this->levels, \array_slice($by, 0, $levels)),
                $this->other ? $by[$levels] : $skipped,
                $none,
            );
        }
        $so = new Constant($by[\count($this->cuts)]);
        foreach (array_reverse($this->cuts, true) as $i => $cut) {
            $so = new When(Operation::of(Operator::UpTo, $column, new Constant($cut)), new Constant($by[$i]), $so);
        }

        return new When(new IsMissing($column), new Constant($none), $so);
    }

    /** A value in words. */
    public function label(int $code): string
    {
        if ($this->missing && $code === $this->size() - 1) {
            return 'missing';
        }
        if (null === $this->cuts) {
            return $this->levels[$code] ?? 'others';
        }
        $low = $this->cuts[$code - 1] ?? null;
        $high = $this->cuts[$code] ?? null;

        return match (true) {
            null === $low => 'up to '.$this->write((float) $high),
            null === $high => 'over '.$this->write($low),
            default => \sprintf('over %s, up to %s', $this->write($low), $this->write($high)),
        };
    }

    private function write(float $v): string
    {
        return $this->isDate ? gmdate('j M Y', (int) ($v * DateColumn::DAY)) : NumberColumn::write($v);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'column' => $this->column, 'cuts' => $this->cuts, 'levels' => $this->levels, 'other' => $this->other, 'missing' => $this->missing,
            'date' => $this->isDate,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{column: string, cuts: ?list<float|int>, levels: list<string>, other: bool, missing: bool, date: bool} $data */
        return new self(
            $data['column'],
            null === $data['cuts'] ? null : array_map(floatval(...), $data['cuts']),
            $data['levels'],
            $data['other'],
            $data['missing'],
            $data['date'],
        );
    }
}
