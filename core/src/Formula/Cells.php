<?php

declare(strict_types=1);

namespace Dokimos\Core\Formula;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;

/** The values of a part of a formula, one a row: numbers, texts, dates (seconds) or yes/no; null = missing. */
final readonly class Cells
{
    public const NUMBER = 'number';
    public const TEXT = 'text';
    public const DATE = 'date';
    public const YES_NO = 'yes/no';

    /** @param list<float|string|int|bool|null> $values */
    public function __construct(public string $type, public array $values)
    {
    }

    public static function of(Column $column): self
    {
        if ($column instanceof NumberColumn) {
            return new self(self::NUMBER, array_map(static fn (float $v) => is_nan($v) ? null : $v, $column->values));
        }
        if ($column instanceof DateColumn) {
            return new self(self::DATE, array_map(static fn (int $s) => DateColumn::MISSING === $s ? null : $s, $column->seconds));
        }
        $values = [];
        for ($row = 0, $rows = $column->count(); $row < $rows; ++$row) {
            $values[] = $column->text($row);
        }
        if (Kind::YesNo === $column->kind()) {
            $first = $column instanceof CodedColumn ? self::yesLevel($column->levels) : null;

            return null === $first ? new self(self::TEXT, $values) : new self(self::YES_NO, array_map(static fn (?string $v) => null === $v ? null : $v === $first, $values));
        }

        return new self(self::TEXT, $values);
    }

    /**
     * @param list<string> $levels
     *
     * @return ?string the spelling that means yes
     */
    private static function yesLevel(array $levels): ?string
    {
        foreach ($levels as $level) {
            if (\in_array(mb_strtolower($level), ['yes', 'y', 'true', 't', '1', 'ja', 'oui', 'si', 'sí'], true)) {
                return $level;
            }
        }

        return null;
    }

    public static function same(float|string|int|bool|null $value, string $type, int $rows): self
    {
        return new self($type, $rows > 0 ? array_fill(0, $rows, $value) : []);
    }

    public function column(): Column
    {
        return match ($this->type) {
            self::NUMBER => new NumberColumn(array_map(static fn (mixed $v) => \is_float($v) && is_finite($v) ? $v : \NAN, $this->values)),
            self::DATE => new DateColumn(array_map(static fn (mixed $v) => \is_int($v) ? $v : DateColumn::MISSING, $this->values)),
            self::YES_NO => new CodedColumn(array_map(static fn (mixed $v) => null === $v ? -1 : (true === $v ? 0 : 1), $this->values), ['yes', 'no'], Kind::YesNo),
            default => CodedColumn::fromCells(array_map(static fn (mixed $v) => null === $v || '' === $v ? null : (string) $v, $this->values)),
        };
    }
}
