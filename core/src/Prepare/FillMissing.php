<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;

/**
 * Fills missing cells with the median (numbers, dates) or the most frequent value of the training rows, optionally keeping a yes/no
 * column that says which cells were missing.
 */
final readonly class FillMissing implements Step
{
    public const MEDIAN = 'median';
    public const MOST_FREQUENT = 'most frequent';
    public const ALL = '*';

    /** @param list<string> $columns names, or ["*"] for every column with missing cells, whichever those are when it is fitted */
    public function __construct(public array $columns, public string $method = self::MEDIAN, public bool $mark = false)
    {
        if ([] === $columns) {
            throw new CannotPrepare('Choose at least one column to fill.');
        }
        if (!\in_array($method, [self::MEDIAN, self::MOST_FREQUENT], true)) {
            throw new CannotPrepare(\sprintf('There is no way of filling called "%s"; choose median or most frequent.', $method));
        }
    }

    public function fit(Table $table, array $training): FittedFill
    {
        $names = $this->columns;
        if ([self::ALL] === $names) {
            $names = array_values(array_filter($table->names(), static fn (string $n) => $table->column($n)->missing() > 0 && !$table->column($n) instanceof TextColumn));
        }
        $fills = [];
        $filled = 0;
        foreach ($names as $name) {
            if (!$table->has($name)) {
                throw new CannotPrepare(\sprintf('There is no column %s at this point; an earlier step may have set it aside.', $name));
            }
            $column = $table->column($name);
            $fills[$name] = match (true) {
                $column instanceof NumberColumn => $this->numberFor($name, $column->values, $training),
                $column instanceof DateColumn => (int) $this->numberFor($name, array_map(static fn (int $s) => DateColumn::MISSING === $s ? \NAN : (float) $s, $column->seconds), $training),
                $column instanceof CodedColumn => self::levelFor($name, $column, $training),
                default => throw new CannotPrepare(\sprintf('%s holds %s; only numbers, dates, categories and yes/no can be filled this way.', $name, $column->kind()->value)),
            };
            $filled += $column->missing();
        }

        return new FittedFill($fills, $this->method, $this->mark, $filled);
    }

    /**
     * @param list<float> $values
     * @param list<int>   $training
     */
    private function numberFor(string $name, array $values, array $training): float
    {
        $known = [];
        foreach ($training as $row) {
            $known[] = $values[$row];
        }
        $summary = NumberSummary::of($known);
        $fill = $summary->figure(self::MEDIAN === $this->method ? 'median' : 'mode');

        return null === $fill ? throw new CannotPrepare(\sprintf('%s has no value in any training row, so there is nothing to fill it with. Set it aside.', $name)) : (float) $fill;
    }

    /** @param list<int> $training */
    private static function levelFor(string $name, CodedColumn $column, array $training): string
    {
        $best = null;
        $most = 0;
        foreach ($column->counts($training) as $code => $count) {
            // Ties go to the first in byte order, so that the result does not depend on the order of rows.
            if ($count > $most || $count === $most && null !== $best && $count > 0 && strcmp($column->levels[$code], $best) < 0) {
                $best = $column->levels[$code];
                $most = $count;
            }
        }

        return $best ?? throw new CannotPrepare(\sprintf('%s has no value in any training row, so there is nothing to fill it with. Set it aside.', $name));
    }

    public function toArray(): array
    {
        return ['step' => 'fill_missing', 'columns' => $this->columns, 'method' => $this->method, 'mark' => $this->mark];
    }
}
