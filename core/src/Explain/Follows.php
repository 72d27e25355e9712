<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Formula\Formula;
use Dokimos\Core\Formula\WrongFormula;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Stacked;
use Dokimos\Core\Table\Table;

/** Columns that follow others by a formula: when those change, these change with them, such as a total with its parts. */
final readonly class Follows
{
    /** @param array<array-key, Formula> $formulas by the column that follows, in the order they are worked out */
    private function __construct(private array $formulas)
    {
    }

    /**
     * @param array<array-key, string> $formulas by the column that follows
     * @param Table                    $record   that is changed
     * @param list<string>             $free     columns that are changed by themselves
     *
     * @throws WrongFormula with a sentence: what does not follow, what is free, what is no formula
     */
    public static function of(array $formulas, Table $record, array $free): self
    {
        $out = [];
        foreach ($formulas as $column => $text) {
            $column = (string) $column;
            if (!$record->has($column) || !self::may($record->column($column))) {
                throw new WrongFormula(\sprintf(
                    '%s is no number, date or category that this model asks for: it cannot follow others.',
                    $column,
                ));
            }
            if (\in_array($column, $free, true)) {
                throw new WrongFormula(\sprintf('%s is free to change: it cannot follow others as well.', $column));
            }
            $formula = new Formula($text, $record->names());
            if (\in_array($column, $formula->columns(), true)) {
                throw new WrongFormula(\sprintf('%s cannot follow itself.', $column));
            }
            foreach ($out as $before => $earlier) {
                if (\in_array($column, $earlier->columns(), true)) {
                    throw new WrongFormula(\sprintf(
                        '%s follows %s, which comes after it: say first what others follow.',
                        $before,
                        $column,
                    ));
                }
            }
            $out[$column] = $formula;
        }

        return new self($out);
    }

    private static function may(Column $column): bool
    {
        return $column instanceof NumberColumn || $column instanceof DateColumn || $column instanceof CodedColumn;
    }

    /** @return list<string> those that follow, in the order they are worked out */
    public function columns(): array
    {
        return array_map(strval(...), array_keys($this->formulas));
    }

    /**
     * The table with every column that follows worked out again, of the kind it had: in rows where something that it follows was changed.
     * A record need not hold the formula as it came, and is left so where nothing that leads to it is touched.
     *
     * @param ?list<list<string>> $changed per row the columns that were changed; null = all
     *
     * @throws WrongFormula where a formula makes another kind
     */
    public function apply(Table $table, ?array $changed = null): Table
    {
        foreach ($this->formulas as $name => $formula) {
            $name = (string) $name;
            $own = $table->column($name);
            $made = $formula->apply($table);
            if ($own instanceof CodedColumn) {
                $made = CodedColumn::fromCells(array_map($made->text(...), range(0, $made->count() - 1)), $own->kind());
            }
            if ($made::class !== $own::class) {
                throw new WrongFormula(\sprintf(
                    '%s holds %s, and its formula makes %s.',
                    $name,
                    $own->kind()->value,
                    $made->kind()->value,
                ));
            }
            if (null !== $changed) {
                $from = [];
                foreach ($changed as $row => $columns) {
                    $touched = [] !== array_intersect($formula->columns(), $columns);
                    $from[] = $touched ? $table->rows + $row : $row;
                    $changed[$row] = $touched ? [...$columns, $name] : $columns;
                }
                $made = Stacked::of(Table::of([$name => $own]), Table::of([$name => $made]))->column($name)->take($from);
            }
            $table = $table->with($name, $made);
        }

        return $table;
    }
}
