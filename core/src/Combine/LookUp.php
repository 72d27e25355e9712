<?php

declare(strict_types=1);

namespace Dokimos\Core\Combine;

use Dokimos\Core\Format\Conversion;
use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;

/** Columns of another table beside each record, by key: every record stays, none is multiplied. */
final readonly class LookUp implements Reshaping
{
    /**
     * @param list<string> $columns of the other table
     *
     * @throws CannotCombine choose the columns to look up
     */
    public function __construct(public string $key, public string $otherKey, public array $columns)
    {
        if ([] === $columns) {
            throw new CannotCombine('Choose the columns to look up.');
        }
    }

    public function sentence(): string
    {
        return \sprintf('looks up %s where %s is its %s', Words::listed($this->columns, 6), $this->key, $this->otherKey);
    }

    public function toll(Table $table, ?Table $other): CombineToll
    {
        [$places, $multiplied] = $this->places($this->other($other));
        $unmatched = $keyless = 0;
        $key = self::column($table, $this->key);
        for ($row = 0; $row < $table->rows; ++$row) {
            $text = $key->text($row);
            $keyless += null === $text ? 1 : 0;
            $unmatched += null !== $text && !isset($places[$text]) ? 1 : 0;
        }
        $before = \count($table->columns());

        return new CombineToll($table->rows, $table->rows, $before, $before + \count($this->columns), $unmatched, $keyless, $multiplied);
    }

    public function apply(Table $table, ?Table $other): Table
    {
        $other = $this->other($other);
        [$places] = $this->places($other);
        $key = self::column($table, $this->key);
        $rows = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $text = $key->text($row);
            $rows[] = null === $text ? null : $places[$text] ?? null;
        }
        foreach ($this->columns as $name) {
            $new = $name;
            for ($i = 2; $table->has($new); ++$i) {
                $new = $name.'_'.$i;
            }
            $table = $table->with($new, self::taken(self::column($other, $name), $rows));
        }

        return $table;
    }

    public function origins(array $names): array
    {
        $origins = [];
        foreach ($names as $name) {
            $origins[$name] = ['own' => [$name], 'other' => []];
        }
        foreach ($this->columns as $name) {
            $new = $name;
            for ($i = 2; isset($origins[$new]); ++$i) {
                $new = $name.'_'.$i;
            }
            $origins[$new] = ['own' => [], 'other' => [$name]];
        }

        return $origins;
    }

    public function toArray(): array
    {
        return ['kind' => 'look up', 'key' => $this->key, 'otherKey' => $this->otherKey, 'columns' => $this->columns];
    }

    /** @return array{array<array-key, int>, int} first row by key, and how many keys stand more than once */
    private function places(Table $other): array
    {
        $key = self::column($other, $this->otherKey);
        $places = $again = [];
        for ($row = 0; $row < $other->rows; ++$row) {
            $text = $key->text($row);
            if (null === $text) {
                continue;
            }
            if (isset($places[$text])) {
                $again[$text] = true;
            } else {
                $places[$text] = $row;
            }
        }

        return [$places, \count($again)];
    }

    private function other(?Table $other): Table
    {
        return $other ?? throw new CannotCombine('Choose the table to look up in.');
    }

    private static function column(Table $table, string $name): Column
    {
        return $table->has($name) ? $table->column($name) : throw new CannotCombine(\sprintf('There is no column %s.', $name));
    }

    /** @param list<?int> $rows */
    private static function taken(Column $column, array $rows): Column
    {
        return match (true) {
            $column instanceof NumberColumn => new NumberColumn(array_map(static fn (?int $r) => null === $r ? \NAN : $column->values[$r], $rows)),
            $column instanceof DateColumn => new DateColumn(array_map(static fn (?int $r) => null === $r ? DateColumn::MISSING : $column->seconds[$r], $rows)),
            $column instanceof CodedColumn => new CodedColumn(array_map(static fn (?int $r) => null === $r ? -1 : $column->codes[$r], $rows), $column->levels, $column->kind()),
            default => Conversion::to(new TextColumn(array_map(static fn (?int $r) => null === $r ? null : $column->text($r), $rows), $column->kind()), $column->kind()),
        };
    }
}
